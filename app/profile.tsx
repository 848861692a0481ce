import { LaterScreen } from '../src/screens/LaterScreen';

export default function ProfileRoute() {
  return <LaterScreen screen="profile" />;
}
