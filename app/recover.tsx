import { RecoverScreen } from '../src/screens/laterScreens';

export default RecoverScreen;
