import { plural, t } from '@lingui/core/macro';
import { useState } from 'react';
import { View } from 'react-native';
import { Button } from '../../ui/Button';
import { StatusMessage } from '../../ui/StatusMessage';
import { useEngine } from '../../engine/useEngine';
import { chooseFiles } from '../../files/chooseFiles';
import { bringIn } from './bringIn';
import { errorText } from '../../i18n/errorText';

/** Takes a zip of hand-ins in, beside what is here. */
export function BringInTool() {
  const engine = useEngine();
  const [working, setWorking] = useState(false);
  const [done, setDone] = useState<number | null>(null);
  const [problem, setProblem] = useState<string | null>(null);
  const take = async (): Promise<void> => {
    const [zip] = await chooseFiles({ accept: '.zip,application/zip' });
    if (zip === undefined) return;
    setWorking(true);
    setProblem(null);
    setDone(null);
    try {
      setDone((await bringIn(engine, zip)).length);
    } catch (error) {
      setProblem(errorText(error, t`The zip could not be imported. Free some space on this device and try again.`));
    } finally {
      setWorking(false);
    }
  };
  return (
    <View className="items-start gap-2">
      <Button label={working ? t`Importing …` : t`Import a zip`} disabled={working} onPress={() => void take()} />
      {done === null ? null : (
        <StatusMessage status="success" announce>
          {plural(done, { one: '# hand-in is on the desk.', other: '# hand-ins are on the desk.' })}
        </StatusMessage>
      )}
      <StatusMessage status="error" announce>
        {problem}
      </StatusMessage>
    </View>
  );
}
