import { t } from '@lingui/core/macro';
import { format } from 'date-fns/format';
import { useState } from 'react';
import { View } from 'react-native';
import type { HandIn } from '../../../core/work/hand-in/handIn';
import { fileNameFor } from '../../../core/work/naming/fileNameFor';
import { Button } from '../../ui/Button';
import { StatusMessage } from '../../ui/StatusMessage';
import { Text } from '../../ui/Text';
import { useEngine } from '../../engine/useEngine';
import { downloadFile } from '../../files/downloadFile';
import { takeAlong } from './takeAlong';
import { errorText } from '../../i18n/errorText';

/** Hand-ins as a zip that any Fotoplan, and any program, can open. */
export function TakeAlongTool({ handIns, label }: { readonly handIns: readonly HandIn[]; readonly label: string }) {
  const engine = useEngine();
  const [says, setSays] = useState<string | null>(null);
  const [problem, setProblem] = useState<string | null>(null);
  const make = async (): Promise<void> => {
    setProblem(null);
    try {
      const zip = await takeAlong(engine, handIns, (done, of) => setSays(t`Photo ${done} of ${of} …`));
      const [only] = handIns;
      const name =
        handIns.length === 1
          ? fileNameFor(only!.title).replace(/\.pdf$/, '')
          : t`Fotoplan ${{ date: format(new Date(), 'yyyy-MM-dd') }}`;
      downloadFile(zip, `${name}.zip`);
    } catch (error) {
      setProblem(errorText(error, t`The zip could not be made. Free some space on this device and try again.`));
    } finally {
      setSays(null);
    }
  };
  return (
    <View className="items-start gap-2">
      <Button label={says ?? label} disabled={says !== null || handIns.length === 0} onPress={() => void make()} />
      <StatusMessage status="error" announce>
        {problem}
      </StatusMessage>
      <Text variant="soft">{t`Photos as they came, recipes and marks, and the bound PDF.`}</Text>
    </View>
  );
}
