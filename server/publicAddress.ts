import type { Express, Request } from 'express';

/*
 * The address that people open. It is a setting where a proxy stands before the server: what reaches the server then says nothing
 * of it.
 */

const SETTING = 'fotoplan public address';

/** @param address - empty where people open the server itself */
export function setPublicAddress(app: Express, address: string): void {
  app.set(SETTING, address === '' ? null : new URL(address));
}

const addressOf = (req: Request): URL | null => req.app.get(SETTING) as URL | null;

/** Whether people open it by https. */
export const isSecure = (req: Request): boolean => addressOf(req)?.protocol === 'https:' || req.secure;

/** The host that our own pages come from. */
export const ownHost = (req: Request): string | undefined => addressOf(req)?.host ?? req.get('host');
