import { DeletedScreen } from '../src/deleted/DeletedScreen';

export default DeletedScreen;
