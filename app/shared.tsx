import { SharedScreen } from '../src/screens/laterScreens';

export default SharedScreen;
