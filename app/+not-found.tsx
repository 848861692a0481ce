import { NotFoundScreen } from '../src/screens/NotFoundScreen';

export default NotFoundScreen;
