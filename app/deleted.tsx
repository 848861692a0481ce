import { DeletedScreen } from '../src/screens/laterScreens';

export default DeletedScreen;
