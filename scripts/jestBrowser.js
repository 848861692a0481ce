// What jsdom lacks of a browser and the stores need: IndexedDB, and cloning as IndexedDB does it.
require('fake-indexeddb/auto');
