/** Carries the key by which a device is known again when its cookie was lost. */
export const DEVICE_HEADER = 'x-fotoplan-device';
