// npm run person -- find|export|delete: what a person may ask an operator about their data.
import { setup } from './setup.mjs';

await setup({ web: false });
await import('../dist/person.mjs');
