/** Keeps the app itself on this device, once the first screen has had its share of the line, so that it opens without a connection. */
export function keepAppOnDevice(): void {
  if (process.env.NODE_ENV !== 'production' || !('serviceWorker' in navigator)) return;
  const register = (): void => void navigator.serviceWorker.register('/sw.js').catch(() => undefined); // private windows have none
  if (document.readyState === 'complete') register();
  else window.addEventListener('load', register, { once: true });
}
