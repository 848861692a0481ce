import '../global.css';
import { AppShell } from '../src/screens/AppShell';

export default AppShell;
