import ArrowLeft from 'lucide-react-native/icons/arrow-left';
import ChevronLeft from 'lucide-react-native/icons/chevron-left';
import ChevronRight from 'lucide-react-native/icons/chevron-right';
import Redo2 from 'lucide-react-native/icons/redo-2';
import Undo2 from 'lucide-react-native/icons/undo-2';
import { View } from 'react-native';
import type { Icon } from './buttonFace';

/** A sign that points along the reading direction, and the other way in a language that is read from the right. */
const directional = (Sign: Icon): Icon =>
  function Directional(look) {
    return (
      <View className="rtl:-scale-x-100">
        <Sign {...look} />
      </View>
    );
  };

export const BackIcon = directional(ArrowLeft);
export const PreviousIcon = directional(ChevronLeft);
export const NextIcon = directional(ChevronRight);
export const UndoIcon = directional(Undo2);
export const RedoIcon = directional(Redo2);
