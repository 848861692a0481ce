// npm run account -- add …: makes accounts at the course office, shows them, gives new PINs, takes them away.
import { setup } from './setup.mjs';

await setup({ web: false });
await import('../dist/account.mjs');
