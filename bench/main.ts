import { benchSquare } from './square';

await benchSquare();
