/** A setting from the environment. */
export const setting = (name: string): string | undefined => (process.env as Record<string, string | undefined>)[name];
