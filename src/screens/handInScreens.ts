/* All that works on one hand-in: one chunk, so that going from stage to stage waits for nothing. */
export { BindScreen } from './BindScreen';
export { HandInScreen } from './HandInScreen';
export { PagesScreen } from './PagesScreen';
export { PageScreen } from './PageScreen';
export { ReadScreen } from './ReadScreen';
export { ShootScreen } from './ShootScreen';
