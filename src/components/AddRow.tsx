import Camera from 'lucide-react-native/icons/camera';
import ImagePlus from 'lucide-react-native/icons/image-plus';
import { View } from 'react-native';
import { Action } from './Action';

/** The two ways in, small, under the board. */
export function AddRow({ onAdd, stacked = false }: { readonly onAdd: (from: 'gallery' | 'camera') => void; readonly stacked?: boolean }) {
  return (
    <View className={`${stacked ? '' : 'flex-row'} gap-2 px-2 pb-2 pt-1`}>
      <View className={stacked ? '' : 'flex-1'}><Action label="Add photos" icon={ImagePlus} onPress={() => onAdd('gallery')} /></View>
      <View className={stacked ? '' : 'flex-1'}><Action label="Camera" icon={Camera} spoken="Take a photo with the camera" onPress={() => onAdd('camera')} /></View>
    </View>
  );
}
