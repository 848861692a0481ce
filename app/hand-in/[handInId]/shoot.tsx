import { useLocalSearchParams } from 'expo-router';
import { ShootScreen } from '../../../src/screens/laterScreens';

export default function ShootRoute() {
  const { handInId, again, after, practice } = useLocalSearchParams<{
    handInId: string;
    again?: string;
    after?: string;
    practice?: string;
  }>();
  return <ShootScreen handInId={handInId} againId={again} afterId={after} practice={practice !== undefined} />;
}
