import { SettingsScreen } from '../src/settings/SettingsScreen';

export default SettingsScreen;
