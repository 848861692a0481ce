import ArrowLeft from 'lucide-react-native/icons/arrow-left';
import ChevronLeft from 'lucide-react-native/icons/chevron-left';
import ChevronRight from 'lucide-react-native/icons/chevron-right';
import Redo2 from 'lucide-react-native/icons/redo-2';
import Undo2 from 'lucide-react-native/icons/undo-2';
import { View } from 'react-native';
import type { Icon } from './Action';

/** A sign that points along the reading direction, and the other way in a language that is read from the right. */
const directional = (Sign: Icon): Icon =>
  function Directional(look) {
    return (
      <View className="rtl:-scale-x-100">
        <Sign {...look} />
      </View>
    );
  };

export const BackSign = directional(ArrowLeft);
export const PreviousSign = directional(ChevronLeft);
export const NextSign = directional(ChevronRight);
export const UndoSign = directional(Undo2);
export const RedoSign = directional(Redo2);
