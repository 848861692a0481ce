import { useLocalSearchParams } from 'expo-router';
import { PageScreen } from '../../../../src/screens/PageScreen';

export default function PageRoute() {
  const { handInId, pageId } = useLocalSearchParams<{ handInId: string; pageId: string }>();
  return <PageScreen handInId={handInId} pageId={pageId} />;
}
