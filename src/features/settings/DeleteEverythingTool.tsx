import { t } from '@lingui/core/macro';
import { useState } from 'react';
import { TextInput, View } from 'react-native';
import { DELETE_WORD } from '../../../contract/deleteWord';
import { Button } from '../../ui/Button';
import { FIELD } from '../../ui/field';
import { StatusMessage } from '../../ui/StatusMessage';
import { Text } from '../../ui/Text';
import { forgetAllShared } from '../../photos/sharedFiles';
import { beginAgain } from '../../engine/startAfresh';
import { useEngine } from '../../engine/useEngine';
import { errorText } from '../../i18n/errorText';

/** Deletes all of a person's work, here and on the server, after the word for it was typed. */
export function DeleteEverythingTool() {
  const engine = useEngine();
  const [open, setOpen] = useState(false);
  const [word, setWord] = useState('');
  const [working, setWorking] = useState(false);
  const [problem, setProblem] = useState<string | null>(null);
  const isTyped = word.trim().toLowerCase() === DELETE_WORD;
  const remove = async (): Promise<void> => {
    setWorking(true);
    setProblem(null);
    try {
      await engine.deleteEverything();
      await forgetAllShared();
      beginAgain();
    } catch (error) {
      setProblem(errorText(error, t`Not everything could be deleted. Try again.`));
      setWorking(false);
    }
  };
  return (
    <View className="gap-2">
      <Text variant="head">{t`Delete everything`}</Text>
      <Text tone="soft">
        {t`All hand-ins, photos and files, on this device, on linked devices and on the server. What was handed in stays with the course office.`}
      </Text>
      {open ? (
        <View className="gap-2">
          <Text
            variant="strong"
            nativeID="delete-word"
          >{t`Type “${DELETE_WORD}” to confirm. This cannot be undone.`}</Text>
          <TextInput
            aria-labelledby="delete-word"
            value={word}
            onChangeText={setWord}
            autoCapitalize="none"
            autoCorrect={false}
            className={FIELD}
          />
          <View className="flex-row flex-wrap gap-2">
            <Button
              label={working ? t`Deleting …` : t`Delete everything`}
              accessibilityLabel={t`Delete everything for good`}
              disabled={!isTyped || working}
              onPress={() => void remove()}
            />
            <Button variant="text" label={t`Cancel`} onPress={() => setOpen(false)} />
          </View>
        </View>
      ) : (
        <View className="items-start">
          <Button label={t`Delete everything of mine`} onPress={() => setOpen(true)} />
        </View>
      )}
      <StatusMessage status="error" announce>
        {problem}
      </StatusMessage>
    </View>
  );
}
