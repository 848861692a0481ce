/**
 * Settles once the page's own scripts have run. Those that only later screens need stand behind the app itself, so that the first
 * screen does not wait for them: a later screen does.
 */
export const pageParsed: Promise<void> =
  document.readyState === 'complete'
    ? Promise.resolve()
    : new Promise((resolve) => document.addEventListener('DOMContentLoaded', () => resolve(), { once: true }));
