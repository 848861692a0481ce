import { LaterScreen } from '../src/screens/LaterScreen';

export default function LinkRoute() {
  return <LaterScreen screen="link" />;
}
