import { benchSquare } from './square';

const [photoFolder] = process.argv.slice(2);
if (photoFolder === undefined) throw new Error('usage: bench PHOTO_FOLDER');
await benchSquare(photoFolder, 'bench/out/square');
