import path from 'node:path';
import { benchDim } from './dim';
import { benchLive } from './live';
import { benchSquare } from './square';

const [folder] = process.argv.slice(2);
if (folder === undefined) throw new Error('usage: bench FOLDER, with square/ and live/ in it');
await benchSquare(path.join(folder, 'square'), 'bench/out/square');
await benchLive(path.join(folder, 'live'));
benchDim();
