import { useLocalSearchParams } from 'expo-router';
import { PagesScreen } from '../../../src/screens/laterScreens';

export default function PagesRoute() {
  const { handInId } = useLocalSearchParams<{ handInId: string }>();
  return <PagesScreen handInId={handInId} />;
}
