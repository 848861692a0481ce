import { SettingsScreen } from '../src/screens/SettingsScreen';

export default SettingsScreen;
