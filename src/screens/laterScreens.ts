import { later } from './later';

const handInScreens = () => import('./handInScreens');
const otherScreens = () => import('./otherScreens');

export const BindScreen = later(() => handInScreens().then(({ BindScreen: Screen }) => Screen));
export const HandInScreen = later(() => handInScreens().then(({ HandInScreen: Screen }) => Screen));
export const PagesScreen = later(() => handInScreens().then(({ PagesScreen: Screen }) => Screen));
export const PageScreen = later(() => handInScreens().then(({ PageScreen: Screen }) => Screen));
export const ReadScreen = later(() => handInScreens().then(({ ReadScreen: Screen }) => Screen));
export const ShootScreen = later(() => handInScreens().then(({ ShootScreen: Screen }) => Screen));
export const DeletedScreen = later(() => otherScreens().then(({ DeletedScreen: Screen }) => Screen));
export const LinkScreen = later(() => otherScreens().then(({ LinkScreen: Screen }) => Screen));
/** For developers; the server shows it only where DEMO=1. */
export const PartsScreen = later(() => import('./PartsScreen').then(({ PartsScreen: Screen }) => Screen));
export const ProfileScreen = later(() => otherScreens().then(({ ProfileScreen: Screen }) => Screen));
export const RecoverScreen = later(() => otherScreens().then(({ RecoverScreen: Screen }) => Screen));
export const SettingsScreen = later(() => otherScreens().then(({ SettingsScreen: Screen }) => Screen));
export const SharedScreen = later(() => otherScreens().then(({ SharedScreen: Screen }) => Screen));

/** Fetches what will be opened next, once the first screen stands; a failure is told when the screen itself is opened. */
export const fetchLaterScreens = (): void => void handInScreens().catch(() => undefined);
