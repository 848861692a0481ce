import '../global.css';
import { AppShell } from '../src/app-shell/AppShell';

export default AppShell;
