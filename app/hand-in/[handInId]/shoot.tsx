import { useLocalSearchParams } from 'expo-router';
import { ShootScreen } from '../../../src/screens/laterScreens';

export default function ShootRoute() {
  const { handInId, again, fill, after, practice } = useLocalSearchParams<{
    handInId: string;
    again?: string;
    fill?: string;
    after?: string;
    practice?: string;
  }>();
  return (
    <ShootScreen handInId={handInId} againId={again} fillId={fill} afterId={after} practice={practice !== undefined} />
  );
}
