import X from 'lucide-react-native/icons/x';
import { View } from 'react-native';
import { Action } from '../components/Action';
import { Flag } from '../components/Flag';

/** Says once that this device was unlinked and has its own work again. */
export function LeftNotice({ onClose }: { readonly onClose: () => void }) {
  return (
    <View role="status" className="flex-row items-center gap-2 border-b border-rule-faint bg-sheet py-1 pl-4 pr-1">
      <View className="flex-1">
        <Flag kind="look">This device was unlinked. It shows your own hand-ins again.</Flag>
      </View>
      <Action kind="quiet" icon={X} label="Close" spoken="Close this notice" onPress={onClose} />
    </View>
  );
}
