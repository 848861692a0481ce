import { useLocalSearchParams } from 'expo-router';
import { BindScreen } from '../../../src/screens/laterScreens';

export default function BindRoute() {
  const { handInId } = useLocalSearchParams<{ handInId: string }>();
  return <BindScreen handInId={handInId} />;
}
