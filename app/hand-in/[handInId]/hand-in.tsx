import { useLocalSearchParams } from 'expo-router';
import { LaterScreen } from '../../../src/screens/LaterScreen';

export default function HandInRoute() {
  const { handInId } = useLocalSearchParams<{ handInId: string }>();
  return <LaterScreen screen="handIn" handInId={handInId} />;
}
