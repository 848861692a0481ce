import { useLocalSearchParams } from 'expo-router';
import { ReadScreen } from '../../../src/screens/laterScreens';

export default function ReadRoute() {
  const { handInId, at } = useLocalSearchParams<{ handInId: string; at?: string }>();
  return <ReadScreen handInId={handInId} {...(at === undefined ? {} : { startId: at })} />;
}
