import { plural, t } from '@lingui/core/macro';
import { useEffect } from 'react';
import { TextInput, View } from 'react-native';
import ChevronDown from 'lucide-react-native/icons/chevron-down';
import ChevronUp from 'lucide-react-native/icons/chevron-up';
import X from 'lucide-react-native/icons/x';
import type { HandIn } from '../../../core/work/hand-in/handIn';
import { Text } from '../../ui/Text';
import { Button } from '../../ui/Button';
import { useStore } from 'zustand';
import { useEngine } from '../../engine/useEngine';
import { findWords } from './findWords';

interface FindBarProps {
  readonly handIn: HandIn;
  readonly pageId: string;
  readonly sought: string;
  readonly onSeek: (sought: string) => void;
  readonly onGo: (pageId: string) => void;
  readonly onClose: () => void;
}

/** Finds printed words in a hand-in; its pages are read while it is open. */
export function FindBar({ handIn, pageId, sought, onSeek, onGo, onClose }: FindBarProps) {
  const reader = useEngine().words;
  const words = useStore(reader.state, (s) => s.words);
  const reading = useStore(reader.state, (s) => s.reading);
  useEffect(() => {
    const stopper = new AbortController();
    // a page that cannot be read has no words
    reader.readAll(handIn, stopper.signal).catch(() => undefined);
    return () => stopper.abort();
    // eslint-disable-next-line react-hooks/exhaustive-deps -- once, when it opens
  }, []);
  const hits = findWords(handIn, sought, words);
  const count = hits.reduce((sum, hit) => sum + hit.words.length, 0);
  const order = handIn.pages.map(({ id }) => id);
  const here = order.indexOf(pageId);
  const after = hits.find((hit) => order.indexOf(hit.pageId) > here) ?? hits[0];
  const before = [...hits].reverse().find((hit) => order.indexOf(hit.pageId) < here) ?? hits.at(-1);
  const state =
    reading !== null
      ? t`reading page ${{ done: reading.done + 1 }} of ${{ of: reading.of }}`
      : sought.trim() === ''
        ? t`all pages read`
        : count === 0
          ? t`not found`
          : t`${count} on ${plural({ pages: hits.length }, { one: '# page', other: '# pages' })}`;
  return (
    <View role="form" aria-label={t`Find words`} className="flex-row items-center gap-1 px-2 pb-1">
      <View className="flex-1">
        <TextInput
          aria-label={t`Find words on the pages`}
          value={sought}
          onChangeText={onSeek}
          onSubmitEditing={() => after !== undefined && onGo(after.pageId)}
          autoFocus
          className="min-h-[44px] rounded border border-rule bg-sheet px-3 font-read text-read text-ink"
        />
        <Text variant="small" tone="chalk" aria-live="polite" className="tabular-nums">
          {state}
        </Text>
      </View>
      <Button
        variant="onDark"
        icon={ChevronUp}
        label={t`Previous`}
        accessibilityLabel={t`Previous page with the words`}
        disabled={before === undefined}
        onPress={() => before !== undefined && onGo(before.pageId)}
      />
      <Button
        variant="onDark"
        icon={ChevronDown}
        label={t`Next`}
        accessibilityLabel={t`Next page with the words`}
        disabled={after === undefined}
        onPress={() => after !== undefined && onGo(after.pageId)}
      />
      <Button variant="onDark" icon={X} label={t`Close`} accessibilityLabel={t`Close the search`} onPress={onClose} />
    </View>
  );
}
