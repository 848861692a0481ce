import Camera from 'lucide-react-native/icons/camera';
import ImagePlus from 'lucide-react-native/icons/image-plus';
import { View } from 'react-native';
import { Action } from '../components/Action';
import { CropMarks } from '../components/CropMarks';
import { Words } from '../components/Words';
import type { CameraProblem } from '../camera/openCamera';
import { CAMERA_HELP } from './shotWords';

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
          <Words as="head">{title}</Words>
          <Words>{text}</Words>
        </View>
        {again ? <Action label="Try again" onPress={onAgain} /> : null}
        <Action
          label="Add photos"
          spoken="Add photos from this device"
          icon={ImagePlus}
          onPress={() => onAddPhotos('gallery')}
        />
        {problem === 'insecure' ? (
          <Action label="Use the phone’s own camera" icon={Camera} onPress={() => onAddPhotos('camera')} />
        ) : null}
        <Action label="Try the practice table" onPress={onPractise} />
      </View>
    </View>
  );
}
