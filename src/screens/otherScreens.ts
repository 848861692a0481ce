/* What is opened from the desk now and then. */
export { DeletedScreen } from './DeletedScreen';
export { LinkScreen } from './LinkScreen';
export { ProfileScreen } from './ProfileScreen';
export { RecoverScreen } from './RecoverScreen';
export { SettingsScreen } from './SettingsScreen';
export { SharedScreen } from './SharedScreen';
