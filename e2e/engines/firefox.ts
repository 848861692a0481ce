import { launch, type ElementHandle } from 'puppeteer-core';
import { finding, type EngineBrowser } from './engine';

/** Gecko, driven by WebDriver BiDi. */
export async function openFirefox(executablePath: string): Promise<EngineBrowser> {
  const browser = await launch({ browser: 'firefox', executablePath, headless: true });
  const page = await browser.newPage();
  await page.setViewport({ width: 390, height: 844 });
  return {
    open: async (address) => void (await page.goto(address)),
    reload: async () => void (await page.reload()),
    run: <T>(script: string) => page.evaluate(script) as Promise<T>,
    async click(role, name) {
      const found = (await page.evaluateHandle(finding(role, name))).asElement() as ElementHandle<Element> | null;
      await found?.click();
      return found !== null;
    },
    pressRight: () => page.keyboard.press('ArrowRight'),
    close: () => browser.close(),
  };
}
