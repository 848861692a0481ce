/* Screens with forms bring the checking of forms along, which weighs as much as the rest of the app: one chunk, fetched when the first of them opens. */
import 'reflect-metadata';
export { HandInScreen } from './HandInScreen';
export { LinkScreen } from './LinkScreen';
export { ProfileScreen } from './ProfileScreen';
export { RecoverScreen } from '../recovery/RecoverScreen';
