import { plural, t } from '@lingui/core/macro';
import X from 'lucide-react-native/icons/x';
import { View } from 'react-native';
import { isPending } from '../../core/work/recipe/recipe';
import { useStore } from 'zustand';
import { useDocuments, useEngine } from '../engine/useEngine';
import { Button } from '../ui/Button';
import { StatusMessage } from '../ui/StatusMessage';
import { Text } from '../ui/Text';
import { errorText } from '../i18n/errorText';

/**
 * Photos on their way to being pages: how many are left, and each that could not be used with what to do.
 * @param quiet - leaves the count out: the camera's strip shows it
 */
export function IntakeList({ handInId, quiet = false }: { readonly handInId: string; readonly quiet?: boolean }) {
  const { intake } = useEngine();
  const items = useStore(intake.state, (s) => s.items);
  const pending = useDocuments(
    (s) => s.handIns[handInId]?.pages.filter((page) => page.removedAtMs === null && isPending(page.recipe)).length ?? 0,
  );
  const own = items.filter((item) => item.handInId === handInId);
  const coming = own.filter(({ state }) => state === 'waiting' || state === 'working');
  const notes = own.filter(({ state }) => state === 'failed' || state === 'noted');
  const working = coming.find(({ state }) => state === 'working');
  const left = coming.length + pending;
  return (
    <>
      {left > 0 && !quiet ? (
        <View role="status" className="border-b border-rule-faint px-4 py-2">
          <Text variant="small">{t`Finding the paper: ${plural(left, { one: '# photo', other: '# photos' })} to go`}</Text>
          {working === undefined ? null : (
            <Text variant="soft" numberOfLines={1}>
              {working.fileName}
            </Text>
          )}
        </View>
      ) : null}
      {notes.map(({ id, fileName, problem, state, offer }) => (
        <View
          key={id}
          role="alert"
          className="flex-row flex-wrap items-center gap-2 border-b border-rule-faint bg-sheet py-1 ps-4 pe-1"
        >
          <View className="min-w-[160px] flex-1">
            <StatusMessage status={state === 'noted' ? 'warning' : 'error'}>
              {problem === null ? '' : errorText(problem, t`“${fileName}” could not be added. Try it again.`)}
            </StatusMessage>
          </View>
          {offer === null ? null : offer.does === 'orderByTime' ? (
            <Button variant="text" label={t`Put in order of shooting`} onPress={offer.act} />
          ) : (
            <Button
              variant="text"
              label={t`Add it again`}
              accessibilityLabel={t`Add it again: ${fileName}`}
              onPress={offer.act}
            />
          )}
          <Button
            variant="text"
            icon={X}
            label={t`Close`}
            accessibilityLabel={t`Close the note about ${fileName}`}
            onPress={() => intake.dismiss(id)}
          />
        </View>
      ))}
    </>
  );
}
