// npm run backup -- FOLDER: copies all data while the server goes on. npm run restore -- FOLDER: puts a copy in their place.
import { setup } from './setup.mjs';

await setup({ web: false });
await import('../dist/keeping.mjs');
