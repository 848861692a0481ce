import Maximize from 'lucide-react-native/icons/maximize';
import ScanSearch from 'lucide-react-native/icons/scan-search';
import X from 'lucide-react-native/icons/x';
import { View } from 'react-native';
import type { PageEditing } from '../screens/usePageEditing';
import { Action } from './Action';

/** The verbs of the edges tool. */
export function EdgesActions({ editing }: { readonly editing: PageEditing }) {
  return (
    <View role="toolbar" aria-label="Edges" className="flex-row bg-paper">
      <Action kind="verb" icon={ScanSearch} label={editing.finding ? 'Finding …' : 'Find again'} disabled={editing.finding} onPress={() => void editing.findEdges()} />
      <Action kind="verb" icon={Maximize} label="Whole photo" onPress={editing.takeWholePhoto} />
      <Action kind="verb" icon={X} label="Leave" spoken="Leave the edges as they were" onPress={editing.leaveEdges} />
    </View>
  );
}
