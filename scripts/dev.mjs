// npm run dev: the app with hot reload, and the server, started again on each change of its code, at one address.
import { spawn } from 'node:child_process';
import { createServer } from 'node:http';
import path from 'node:path';
import { setup } from './setup.mjs';

await setup({ web: false });
const { context } = await import('esbuild');
const { createProxyMiddleware } = await import('http-proxy-middleware');
const { NODE_BUILD } = await import('./buildNode.mjs');
const { ROOT } = await import('./ensureBuilt.mjs');
const { scriptOf } = await import('./run.mjs');
const { seedDemo } = await import('./seedDemo.mjs');
process.chdir(ROOT);

const PORT = Number(process.env.PORT ?? 4310);
const SERVER_PORT = PORT + 1;
const METRO_PORT = PORT + 2;
/** What the server answers; all else is the app's. */
const OF_SERVER = /^\/(api|office|locker|post|practice|practice-table|workers|reading|livez|readyz|metrics)(\/|$|\?)/;
const dataFolder = path.resolve(process.env.DATA_DIR ?? 'data');
await seedDemo(dataFolder);

let server = null;
async function restart() {
  if (server !== null) {
    const ended = new Promise((resolve) => server.once('exit', resolve));
    server.kill('SIGTERM');
    await ended;
  }
  server = spawn(process.execPath, ['dist/server.mjs'], {
    stdio: 'inherit',
    env: {
      ...process.env,
      DEMO: '1',
      LOG_LEVEL: process.env.LOG_LEVEL ?? 'warn',
      DATA_DIR: dataFolder,
      PORT: String(SERVER_PORT),
    },
  });
}
let restarting = Promise.resolve();
const restarts = {
  name: 'restarts',
  setup: (build) => build.onEnd(({ errors }) => void (errors.length === 0 && (restarting = restarting.then(restart)))),
};
const building = await context({ ...NODE_BUILD, plugins: [restarts] });
await building.watch();

const metro = spawn(process.execPath, [scriptOf('expo', 'expo'), 'start', '--web', '--port', String(METRO_PORT)], {
  stdio: ['ignore', 'inherit', 'inherit'],
  env: { ...process.env, BROWSER: 'none', EXPO_OFFLINE: '1', EXPO_NO_TELEMETRY: '1' },
});

const proxyTo = (target) =>
  createProxyMiddleware({ target, on: { error: (_error, _req, res) => void res.end?.('Starting …') } });
const toServer = proxyTo(`http://localhost:${SERVER_PORT}`);
const toApp = proxyTo(`http://localhost:${METRO_PORT}`);
const front = createServer((req, res) => void (OF_SERVER.test(req.url) ? toServer : toApp)(req, res, () => res.end()));
front.on('upgrade', (req, socket, head) => toApp.upgrade(req, socket, head));
front.listen(PORT, () => console.log(`Fotoplan is open for work at http://localhost:${PORT}`));

for (const signal of ['SIGINT', 'SIGTERM']) {
  process.once(signal, () => {
    metro.kill();
    server?.kill();
    process.exit(0);
  });
}
