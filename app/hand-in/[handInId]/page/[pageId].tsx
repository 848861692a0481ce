import { useLocalSearchParams } from 'expo-router';
import { PageScreen } from '../../../../src/screens/laterScreens';

export default function PageRoute() {
  const { handInId, pageId, from } = useLocalSearchParams<{ handInId: string; pageId: string; from?: string }>();
  return <PageScreen handInId={handInId} pageId={pageId} {...(from === undefined ? {} : { from })} />;
}
