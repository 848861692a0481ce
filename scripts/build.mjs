// Builds the server and the app, without the demo's data: for a container.
import { setup } from './setup.mjs';

await setup({ web: true });
