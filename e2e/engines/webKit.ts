import { spawn } from 'node:child_process';
import { existsSync, readdirSync } from 'node:fs';
import path from 'node:path';
import { Builder, Capabilities, Key, type WebDriver, type WebElement } from 'selenium-webdriver';
import { finding, type EngineBrowser } from './engine';

const DRIVER_PORT = 4395;
const START_MS = 20_000;

const LIBRARIES = '/usr/lib';

/** WebKitGTK's own small browser, which comes with the driver; Debian names its folder by the machine. Null where it is not there. */
export function findMiniBrowser(): string | null {
  const folders = existsSync(LIBRARIES) ? readdirSync(LIBRARIES) : [];
  const places = folders.flatMap((folder) =>
    ['4.1', '4.0'].map((version) => path.join(LIBRARIES, folder, `webkit2gtk-${version}`, 'MiniBrowser')),
  );
  return places.find((place) => existsSync(place)) ?? null;
}

/** Windows that a driver opens are private ones. */
export async function openWebKit(miniBrowser: string): Promise<EngineBrowser> {
  const server = spawn('xvfb-run', ['-a', 'dbus-run-session', '--', 'WebKitWebDriver', `--port=${DRIVER_PORT}`], {
    detached: true,
    stdio: 'ignore',
    // as root, and with no graphics card
    env: { ...process.env, WEBKIT_DISABLE_SANDBOX_THIS_IS_DANGEROUS: '1', LIBGL_ALWAYS_SOFTWARE: '1' },
  });
  /** The driver, and the screen and bus around it. */
  const stop = (): void => void process.kill(-server.pid!);
  try {
    const driver = await whenUp(miniBrowser);
    await driver.manage().window().setRect({ x: 0, y: 0, width: 430, height: 900 });
    await driver.manage().setTimeouts({ script: 60_000, pageLoad: 60_000 });
    return {
      open: (address) => driver.get(address),
      reload: () => driver.navigate().refresh(),
      run: <T>(script: string) =>
        driver.executeAsyncScript<T>(
          `const done = arguments[arguments.length - 1]; Promise.resolve(${script}).then(done, (error) => done(String(error)));`,
        ),
      async click(role, name) {
        const found = await driver.executeScript<WebElement | null>(`return ${finding(role, name)}`);
        await found?.click();
        return found !== null;
      },
      pressRight: () => driver.actions().sendKeys(Key.ARROW_RIGHT).perform(),
      async close() {
        await driver.quit().catch(() => undefined);
        stop();
      },
    };
  } catch (error) {
    stop();
    throw error;
  }
}

async function whenUp(binary: string): Promise<WebDriver> {
  const wanted = new Capabilities({
    browserName: 'MiniBrowser',
    'webkitgtk:browserOptions': { binary, args: ['--automation'] },
  });
  const until = Date.now() + START_MS;
  for (;;) {
    try {
      return await new Builder().usingServer(`http://127.0.0.1:${DRIVER_PORT}`).withCapabilities(wanted).build();
    } catch (error) {
      if (Date.now() > until) throw error;
      await new Promise((resolve) => setTimeout(resolve, 300));
    }
  }
}
