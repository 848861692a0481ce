import { t } from '@lingui/core/macro';
import Camera from 'lucide-react-native/icons/camera';
import ImagePlus from 'lucide-react-native/icons/image-plus';
import { View } from 'react-native';
import { Button } from '../../ui/Button';
import { CropMarks } from '../../ui/CropMarks';
import { Text } from '../../ui/Text';
import type { CameraProblem } from './openCamera';
import { CAMERA_HELP } from './cameraText';

interface CameraHelpProps {
  readonly problem: CameraProblem;
  readonly onAgain: () => void;
  readonly onPractise: () => void;
  readonly onAddPhotos: (from: 'gallery' | 'camera') => void;
}

/** No picture: why, what to do, and the ways that stay open. */
export function CameraHelp({ problem, onAgain, onPractise, onAddPhotos }: CameraHelpProps) {
  const { title, text, again } = CAMERA_HELP[problem];
  return (
    <View className="flex-1 items-center justify-center p-6">
      <View className="w-full max-w-[380px] gap-3 bg-sheet p-5">
        <CropMarks colour="border-beet-light" />
        <View role="alert" className="gap-2">
          <Text variant="head">{t(title)}</Text>
          <Text>{t(text)}</Text>
        </View>
        {again ? <Button label={t`Try again`} onPress={onAgain} /> : null}
        <Button
          label={t`Add photos`}
          accessibilityLabel={t`Add photos from this device`}
          icon={ImagePlus}
          onPress={() => onAddPhotos('gallery')}
        />
        {problem === 'insecure' ? (
          <Button label={t`Use the phone’s own camera`} icon={Camera} onPress={() => onAddPhotos('camera')} />
        ) : null}
        <Button label={t`Try the practice table`} onPress={onPractise} />
      </View>
    </View>
  );
}
