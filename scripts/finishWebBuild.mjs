// What Expo's export leaves to do: icons and manifest for installing, the service worker, and scripts packed as small as they get.
import { copyFile, mkdir, readFile, readdir, stat, writeFile } from 'node:fs/promises';
import path from 'node:path';
import { promisify } from 'node:util';
import { brotliCompress, constants } from 'node:zlib';
import sharp from 'sharp';
import { generateSW } from 'workbox-build';

const pack = promisify(brotliCompress);
/** What the first screen is wanted to load at most. */
const MOST_FIRST_SCRIPT_KB = 300;

const ICONS = [
  { name: 'icon-192.png', size: 192 },
  { name: 'icon-512.png', size: 512 },
  // room around it for systems that cut a shape of their own
  { name: 'icon-maskable-512.png', size: 512, inset: 64 },
  { name: 'apple-touch-icon.png', size: 180, inset: 12 },
];
const PAPER = '#F5F1E8';
/** What other programs may hand over, by type and endings. */
const TAKEN = {
  'image/jpeg': ['.jpg', '.jpeg'],
  'image/png': ['.png'],
  'image/webp': ['.webp'],
  'image/avif': ['.avif'],
  'image/gif': ['.gif'],
  'image/heic': ['.heic'],
  'image/heif': ['.heif'],
  'image/tiff': ['.tif', '.tiff'],
  'application/pdf': ['.pdf'],
  'application/zip': ['.zip'],
};
/** Of docs/screenshots: what a browser shows to those who are about to install the app. */
const SCREENSHOTS = [
  { name: 'desk-phone.png', sizes: '390x844', form: 'narrow' },
  { name: 'pages-phone.png', sizes: '390x844', form: 'narrow' },
  { name: 'pages-wide.png', sizes: '1280x800', form: 'wide' },
];

async function icons(folder) {
  for (const { name, size, inset = 0 } of ICONS) {
    const inner = await sharp('assets/mark.svg', { density: 600 })
      .resize(size - 2 * inset)
      .png()
      .toBuffer();
    const ground = inset > 0 ? PAPER : { r: 0, g: 0, b: 0, alpha: 0 };
    await sharp({ create: { width: size, height: size, channels: 4, background: ground } })
      .composite([{ input: inner }])
      .png()
      .toFile(path.join(folder, name));
  }
  await copyFile('assets/mark.svg', path.join(folder, 'mark.svg'));
}

async function manifest(folder) {
  const icon = (name, purpose) => ({
    src: `/${name}`,
    sizes: /\d+/.exec(name)[0].replace(/.*/, '$&x$&'),
    type: 'image/png',
    purpose,
  });
  const action = (name, url) => ({ name, url, icons: [{ src: '/icon-192.png', sizes: '192x192', type: 'image/png' }] });
  const screenshot = (src, sizes, form_factor) => ({ src, sizes, type: 'image/png', form_factor });
  const text = {
    id: '/',
    name: 'Fotoplan',
    short_name: 'Fotoplan',
    description: 'Photographs of paper pages in, one compact PDF out.',
    start_url: '/',
    display: 'standalone',
    background_color: PAPER,
    theme_color: PAPER,
    categories: ['education', 'productivity', 'photo'],
    icons: [icon('icon-192.png', 'any'), icon('icon-512.png', 'any'), icon('icon-maskable-512.png', 'maskable')],
    screenshots: SCREENSHOTS.map(({ name, sizes, form }) => screenshot(`/screenshots/${name}`, sizes, form)),
    shortcuts: [action('Shoot pages', '/?start=shoot'), action('New hand-in', '/?start=new')],
    // the service worker answers it: assets/takeShared.js
    share_target: {
      action: '/share',
      method: 'POST',
      enctype: 'multipart/form-data',
      params: { files: [{ name: 'files', accept: Object.values(TAKEN).flat().concat(Object.keys(TAKEN)) }] },
    },
    file_handlers: [{ action: '/shared', accept: TAKEN }],
    launch_handler: { client_mode: ['navigate-new', 'auto'] },
  };
  await writeFile(path.join(folder, 'manifest.webmanifest'), JSON.stringify(text));
  const page = path.join(folder, 'index.html');
  const html = await readFile(page, 'utf8');
  if (html.includes('manifest.webmanifest')) return;
  const head = `<link rel="manifest" href="/manifest.webmanifest"><link rel="icon" href="/mark.svg" type="image/svg+xml"><link rel="apple-touch-icon" href="/apple-touch-icon.png"><meta name="theme-color" content="${PAPER}">`;
  await writeFile(page, html.replace('</head>', `${head}</head>`));
}

/** Everything the app is made of is kept on the device at the first visit; what only some need, when it was needed once. */
async function serviceWorker(folder) {
  const { warnings } = await generateSW({
    globDirectory: folder,
    // the Arabic face is fetched by those who read it
    globIgnores: ['sw.js', '**/*.br', '**/NotoSansArabic*'], // by default everything of node_modules, from where the fonts come
    globPatterns: [
      'index.html',
      'manifest.webmanifest',
      '*.{svg,png,ico}',
      '_expo/**/*.{js,css}',
      'assets/**/*.{ttf,png}',
    ],
    swDest: path.join(folder, 'sw.js'),
    maximumFileSizeToCacheInBytes: 8e6,
    dontCacheBustURLsMatching: /[.-][0-9a-f]{16,}\./,
    navigateFallback: '/index.html',
    navigateFallbackDenylist: [
      /^\/(api|office|locker|post|practice|practice-table|workers|reading|livez|readyz|metrics)(\/|$)/,
      /\.txt$/,
    ],
    inlineWorkboxRuntime: true,
    importScripts: ['/takeShared.js'],
    sourcemap: false,
    // a page that is open goes on with the code it began with
    skipWaiting: false,
    clientsClaim: true,
    cleanupOutdatedCaches: true,
    runtimeCaching: [
      {
        urlPattern: /\/(workers|reading)\//,
        handler: 'StaleWhileRevalidate',
        options: { cacheName: 'fotoplan-tools' },
      },
      {
        urlPattern: /\/practice(-table)?\//,
        handler: 'CacheFirst',
        options: { cacheName: 'fotoplan-practice', expiration: { maxEntries: 40 } },
      },
    ],
  });
  for (const warning of warnings) console.warn(warning);
}

async function packed(folder) {
  const names = (await readdir(folder, { recursive: true })).filter(
    (name) => /\.(js|css)$/.test(name) && name !== 'sw.js',
  );
  await Promise.all(
    names.map(async (name) => {
      const file = path.join(folder, name);
      await writeFile(
        `${file}.br`,
        await pack(await readFile(file), {
          params: { [constants.BROTLI_PARAM_QUALITY]: constants.BROTLI_MAX_QUALITY },
        }),
      );
    }),
  );
}

/** Puts what only later screens need behind the app itself (src/screens/pageParsed.ts): the first screen does not wait for it. */
async function appFirst(folder) {
  const file = path.join(folder, 'index.html');
  const html = await readFile(file, 'utf8');
  const [common] = /<script src="[^"]*\/__common-[^>]*><\/script>/.exec(html) ?? [];
  if (common === undefined) return;
  await writeFile(file, html.replace(common, '').replace('</body>', `${common}</body>`));
}

/** What is loaded before the first screen stands: the app itself and the sentences of one language. */
async function sayFirstWeight(folder) {
  const html = await readFile(path.join(folder, 'index.html'), 'utf8');
  const scripts = Array.from(html.matchAll(/src="\/([^"]+\.js)"/g), ([, name]) => name).filter(
    (name) => !name.includes('/__common-'),
  );
  const english = (await readdir(path.join(folder, '_expo/static/js/web'))).find((name) => /^en-.*\.js$/.test(name));
  const sizes = await Promise.all(
    [...scripts, ...(english === undefined ? [] : [`_expo/static/js/web/${english}`])].map(
      async (name) => (await stat(path.join(folder, `${name}.br`))).size,
    ),
  );
  const kilobytes = Math.round(sizes.reduce((sum, size) => sum + size, 0) / 1000);
  console.log(
    `The first screen loads ${kilobytes} KB of script, compressed (wanted: at most ${MOST_FIRST_SCRIPT_KB}).`,
  );
}

export async function finishWebBuild(folder) {
  await appFirst(folder);
  await copyFile('THIRD_PARTY_NOTICES', path.join(folder, 'THIRD_PARTY_NOTICES.txt'));
  await icons(folder);
  await manifest(folder);
  await mkdir(path.join(folder, 'screenshots'), { recursive: true });
  for (const { name } of SCREENSHOTS)
    await copyFile(path.join('docs/screenshots', name), path.join(folder, 'screenshots', name));
  await copyFile('assets/takeShared.js', path.join(folder, 'takeShared.js'));
  await serviceWorker(folder);
  await packed(folder);
  await sayFirstWeight(folder);
}
