import 'reflect-metadata';
import path from 'node:path';
import { benchBends } from './bends/bends';
import { benchBind } from './bind';
import { benchBoard } from './board';
import { benchCalibration } from './calibration';
import { benchDim } from './dim';
import { benchLight } from './light';
import { drawLightSheets } from './lightSheets';
import { printFuzz } from './fuzz';
import { benchHistories } from './histories/benchHistories';
import { benchLive } from './live';
import { benchPress } from './press';
import { benchSlow } from './slow/slow';
import { benchSquare } from './square';
import { benchTime } from './time';
import { benchVerdicts } from './verdicts';

/** Each by its name, so that one can be run alone. */
const BENCHES: Readonly<Record<string, (folder: string) => Promise<void> | void>> = {
  square: (folder) => benchSquare(path.join(folder, 'square'), 'bench/out/square'),
  bends: () => benchBends('bench/out/bends'),
  light: (folder) => benchLight(path.join(folder, 'square'), 'bench/out/light'),
  sheets: (folder) => drawLightSheets(path.join(folder, 'square'), 'bench/out/sheets'),
  bind: (folder) => benchBind(path.join(folder, 'square'), 'bench/out/bind'),
  press: (folder) => benchPress(path.join(folder, 'square')),
  time: (folder) => benchTime(path.join(folder, 'square')),
  slow: (folder) => benchSlow(path.join(folder, 'square')),
  live: (folder) => benchLive(path.join(folder, 'live')),
  calibration: (folder) => benchCalibration(path.join(folder, 'calibration'), path.join(folder, 'live')),
  verdicts: (folder) => benchVerdicts(path.join(folder, 'calibration')),
  dim: () => benchDim(),
  board: (folder) => benchBoard(path.join(folder, 'square')),
  histories: () => benchHistories(),
  fuzz: () => printFuzz(),
};
const [folder, ...names] = process.argv.slice(2);
const unknown = names.find((name) => BENCHES[name] === undefined);
if (folder === undefined || unknown !== undefined)
  throw new Error(
    `usage: bench FOLDER [${Object.keys(BENCHES).join('|')} …], with square/, live/ and calibration/ in the folder`,
  );
for (const name of names.length > 0 ? names : Object.keys(BENCHES)) await BENCHES[name]!(folder);
