import { useLocalSearchParams } from 'expo-router';
import { HandInScreen } from '../../../src/screens/laterScreens';

export default function HandInRoute() {
  const { handInId } = useLocalSearchParams<{ handInId: string }>();
  return <HandInScreen handInId={handInId} />;
}
