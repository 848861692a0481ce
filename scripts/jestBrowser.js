// What jsdom lacks of a browser and the stores need: IndexedDB, and copying values as IndexedDB does it (bytes stay as they are).
require('fake-indexeddb/auto');

const isPlain = (value) => typeof value === 'object' && value !== null && !(value instanceof Blob);
global.structuredClone ??= (value) => {
  if (Array.isArray(value)) return value.map((item) => global.structuredClone(item));
  return isPlain(value)
    ? Object.fromEntries(Object.entries(value).map(([key, item]) => [key, global.structuredClone(item)]))
    : value;
};
global.TextEncoder ??= require('node:util').TextEncoder;

// Sentences stand in the code in English; nothing has to be fetched for them.
require('@lingui/core').i18n.loadAndActivate({ locale: 'en', locales: ['en-GB'], messages: {} });
