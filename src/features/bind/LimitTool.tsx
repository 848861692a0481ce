import { t } from '@lingui/core/macro';
import { readableLimit } from '../../i18n/formats';
import { useState } from 'react';
import { TextInput, View } from 'react-native';
import { LEAST_LIMIT_BYTES, LIMIT_CHOICES } from '../../../core/work/hand-in/bindSettings';
import type { HandIn } from '../../../core/work/hand-in/handIn';
import { StatusMessage } from '../../ui/StatusMessage';
import { ChoiceGroup } from '../../ui/ChoiceGroup';
import { Text } from '../../ui/Text';
import { useEngine } from '../../engine/useEngine';
import { FIELD } from '../../ui/field';

export const limitName = (bytes: number | null): string => (bytes === null ? t`No limit` : readableLimit(bytes));

/** What the file may weigh at most: a common limit, or any other. */
export function LimitTool({ handIn }: { readonly handIn: HandIn }) {
  const { dispatch } = useEngine();
  const { maxBytes } = handIn.binding;
  const own = maxBytes !== null && !(LIMIT_CHOICES as readonly (number | null)[]).includes(maxBytes);
  const [written, setWritten] = useState(own ? String(maxBytes / 1e6) : '');
  const number = Number(written.replace(',', '.'));
  const wrong = written.trim() !== '' && !(Number.isFinite(number) && number * 1e6 >= LEAST_LIMIT_BYTES);
  const set = (bytes: number | null): void =>
    void (bytes === maxBytes
      ? undefined
      : dispatch({ kind: 'changeHandIn', handInId: handIn.id, binding: { maxBytes: bytes }, label: { key: 'limit' } }));
  const keep = (): void => {
    if (!wrong && written.trim() !== '') set(Math.round(number * 1e6));
  };
  return (
    <View className="gap-2">
      <ChoiceGroup
        label={t`Limit`}
        choices={LIMIT_CHOICES.map((bytes) => ({ value: bytes, label: limitName(bytes) }))}
        value={maxBytes}
        onChange={set}
      />
      <View className="flex-row items-center gap-2">
        <TextInput
          aria-label={t`Another limit in MB`}
          inputMode="decimal"
          placeholder={t`Other`}
          placeholderTextColor="rgb(var(--ink-soft))"
          value={written}
          onChangeText={setWritten}
          onBlur={keep}
          onSubmitEditing={keep}
          className={`${FIELD} w-[110px]`}
        />
        <Text>{t`MB`}</Text>
      </View>
      {wrong ? (
        <StatusMessage
          status="error"
          announce
        >{t`Write a number of megabytes, at least ${{ LEAST_LIMIT_BYTES: LEAST_LIMIT_BYTES / 1e6 }}.`}</StatusMessage>
      ) : null}
    </View>
  );
}
