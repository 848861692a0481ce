/** Under which names the bytes of things are kept on this device. */
export const originalName = (originalId: string): string => `original-${originalId}`;
export const boundName = (fileId: string): string => `bound-${fileId}`;
export const boundPartName = (fileId: string, part: number): string => `bound-${fileId}-part-${part}`;
/** Whether it is one of these: what is only being tried lies beside them. */
export const isNameOfOurs = (name: string): boolean => /^(original|bound)-/.test(name);
