import { DeskScreen } from '../src/screens/DeskScreen';

export default DeskScreen;
