import { PartsScreen } from '../src/screens/laterScreens';

export default PartsScreen;
