import { SettingsScreen } from '../src/screens/laterScreens';

export default SettingsScreen;
