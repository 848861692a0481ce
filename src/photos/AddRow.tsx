import { t } from '@lingui/core/macro';
import Camera from 'lucide-react-native/icons/camera';
import ImagePlus from 'lucide-react-native/icons/image-plus';
import { useRouter } from 'expo-router';
import { View } from 'react-native';
import { choosePhotos } from './choosePhotos';
import { useEngine } from '../engine/useEngine';
import { Button } from '../ui/Button';

interface AddRowProps {
  readonly handInId: string;
  /** The page that what is added comes to stand behind; left out: the end. */
  readonly afterPageId?: string;
  readonly stacked?: boolean;
}

/** The two ways in, small. */
export function AddRow({ handInId, afterPageId, stacked = false }: AddRowProps) {
  const router = useRouter();
  const { intake } = useEngine();
  const choose = (): void =>
    void choosePhotos('gallery').then((files) =>
      intake.take(handInId, files, afterPageId === undefined ? {} : { afterPageId }),
    );
  return (
    <View className={`${stacked ? '' : 'flex-row flex-wrap'} gap-2 px-2 pb-2 pt-1`}>
      <View className={stacked ? '' : 'min-w-[124px] flex-1'}>
        <Button
          label={t`Add photos`}
          accessibilityLabel={afterPageId === undefined ? t`Add photos` : t`Add photos behind this page`}
          icon={ImagePlus}
          onPress={choose}
        />
      </View>
      <View className={stacked ? '' : 'min-w-[124px] flex-1'}>
        <Button
          label={t`Shoot`}
          accessibilityLabel={afterPageId === undefined ? t`Shoot pages` : t`Shoot pages behind this page`}
          icon={Camera}
          onPress={() =>
            router.push(`/hand-in/${handInId}/shoot${afterPageId === undefined ? '' : `?after=${afterPageId}`}`)
          }
        />
      </View>
    </View>
  );
}
