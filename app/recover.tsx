import { LaterScreen } from '../src/screens/LaterScreen';

export default function RecoverRoute() {
  return <LaterScreen screen="recover" />;
}
