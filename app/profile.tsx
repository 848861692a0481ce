import { ProfileScreen } from '../src/screens/laterScreens';

export default ProfileScreen;
