import { NotHereScreen } from '../src/screens/NotHereScreen';

export default NotHereScreen;
