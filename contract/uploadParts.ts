/** Originals go up in parts of this size, the last one shorter: what has arrived need not be sent again. */
export const UPLOAD_PART_BYTES = 1 << 19;
