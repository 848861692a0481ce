/* What is opened from the desk now and then. */
export { DeletedScreen } from '../deleted/DeletedScreen';
export { LinkScreen } from './LinkScreen';
export { ProfileScreen } from './ProfileScreen';
export { RecoverScreen } from '../recovery/RecoverScreen';
export { SettingsScreen } from '../settings/SettingsScreen';
