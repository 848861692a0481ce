import { LinkScreen } from '../src/screens/laterScreens';

export default LinkScreen;
