import type { MessageDescriptor } from '@lingui/core';
import { msg, t } from '@lingui/core/macro';
import X from 'lucide-react-native/icons/x';
import { useEffect, useState } from 'react';
import { TextInput, View } from 'react-native';
import { boundPages, type HandIn } from '../../../core/work/hand-in/handIn';
import {
  DATE_FORMS,
  NAME_PIECES,
  pieceText,
  SEPARATORS,
  type NamePattern,
  type NamePiece,
  type NamePieceKind,
  type Separator,
} from '../../../core/work/naming/namePattern';
import { Button } from '../../ui/Button';
import { Disclosure } from '../../ui/Disclosure';
import { FIELD } from '../../ui/field';
import { ChoiceGroup } from '../../ui/ChoiceGroup';
import { Text } from '../../ui/Text';
import { isPending } from '../../../core/work/recipe/recipe';
import { headingOf } from '../../../core/work/words/headingOf';
import { useEngine, useProfile } from '../../engine/useEngine';
import { fileNameOf, nameFacts } from '../../college/fileName';
import { useOfficeStore } from '../../college/officeStore';
import { NextIcon, PreviousIcon } from '../../ui/directionalIcons';

const PIECE_NAMES: Readonly<Record<NamePieceKind, MessageDescriptor>> = {
  family: msg`Family name`,
  first: msg`First name`,
  initial: msg`Initial`,
  number: msg`Number`,
  course: msg`Course`,
  assignment: msg`Assignment`,
  title: msg`Title`,
  date: msg`Date`,
  attempt: msg`Attempt`,
  words: msg`Words`,
};
const SEPARATOR_NAMES: Readonly<Record<Separator, MessageDescriptor>> = {
  _: msg`Underscore _`,
  '-': msg`Dash -`,
  ' ': msg`Space`,
  '.': msg`Dot .`,
};
export const FIRST_PATTERN: NamePattern = {
  pieces: [{ kind: 'family' }, { kind: 'number' }, { kind: 'title' }],
  separator: '_',
};

/** What the hand-in and its file are called: a title, and where the course wants it a name put together from pieces. */
export function NameTool({ handIn }: { readonly handIn: HandIn }) {
  const { dispatch, profile: ownProfile } = useEngine();
  const profile = useProfile();
  const course = useOfficeStore((s) => s.assignments.find(({ id }) => id === handIn.assignmentId)?.courseCode);
  const { name } = handIn.binding;
  const set = (pattern: NamePattern | null): void => {
    // for a course the same is used the next time
    if (course !== undefined && pattern !== null)
      void ownProfile.change({ courseNames: { ...profile.courseNames, [course]: pattern } });
    void dispatch({ kind: 'changeHandIn', handInId: handIn.id, binding: { name: pattern }, label: { key: 'naming' } });
  };
  const facts = nameFacts(handIn, profile);
  const lacking = (name?.pieces ?? []).filter(
    ({ kind }) =>
      (kind === 'family' || kind === 'first' || kind === 'initial' || kind === 'number') &&
      pieceText({ kind }, facts) === '',
  );
  return (
    <View className="gap-3">
      <TitleField handIn={handIn} />
      {lacking.length > 0 ? <WhoFields /> : null}
      <Disclosure title={t`Name of the file`} summary={fileNameOf(handIn, profile)} summaryTestID="file-name">
        <View className="gap-3">
          <ChoiceGroup
            label={t`How the file is named`}
            choices={[
              { value: false, label: t`Use the title` },
              { value: true, label: t`Use a pattern` },
            ]}
            value={name !== null}
            onChange={(patterned) => set(patterned ? FIRST_PATTERN : null)}
          />
          {name === null ? null : <NamePieces pattern={name} onChange={set} />}
          {name !== null && lacking.length === 0 ? <WhoFields /> : null}
        </View>
      </Disclosure>
    </View>
  );
}

/** The hand-in's title; kept when the field is left. */
function TitleField({ handIn }: { readonly handIn: HandIn }) {
  const { dispatch, words } = useEngine();
  const [title, setTitle] = useState(handIn.title);
  const [suggested, setSuggested] = useState<string | null>(null);
  const [looking, setLooking] = useState(false);
  useEffect(() => setTitle(handIn.title), [handIn.title]);
  const keep = (wanted: string): void => {
    const trimmed = wanted.trim().slice(0, 120);
    if (trimmed === '') setTitle(handIn.title);
    else if (trimmed !== handIn.title)
      void dispatch({ kind: 'changeHandIn', handInId: handIn.id, title: trimmed, label: { key: 'name' } });
  };
  const first = boundPages(handIn)[0];
  // another page, or the same laid out anew, says something else
  useEffect(() => setSuggested(null), [first?.id, first?.recipe]);
  const look = async (): Promise<void> => {
    setLooking(true);
    const heading =
      first === undefined ? null : await words.of(first, handIn.binding.language).then(headingOf, () => null);
    setSuggested(heading ?? '');
    setLooking(false);
  };
  return (
    <View className="gap-2">
      <Text variant="strong" nativeID="name-label">
        {t`Title`}
      </Text>
      <TextInput
        value={title}
        onChangeText={setTitle}
        onBlur={() => keep(title)}
        onSubmitEditing={() => keep(title)}
        aria-labelledby="name-label"
        maxLength={120}
        className={FIELD}
      />
      {first === undefined || isPending(first.recipe) ? null : suggested === null ? (
        <View className="items-start">
          <Button
            label={looking ? t`Reading page 1 …` : t`Take it from page 1`}
            disabled={looking}
            onPress={() => void look()}
          />
        </View>
      ) : suggested === '' || suggested === handIn.title ? (
        <Text variant="soft" role="status">
          {suggested === '' ? t`No heading on page 1 is clear enough to offer.` : t`Page 1 says the same.`}
        </Text>
      ) : (
        <View className="items-start">
          <Button label={t`Use “${suggested}”`} onPress={() => keep(suggested)} />
        </View>
      )}
    </View>
  );
}

/** A convention's pieces, put in order, taken out and added. */
export function NamePieces({
  pattern,
  onChange,
}: {
  readonly pattern: NamePattern;
  readonly onChange: (pattern: NamePattern) => void;
}) {
  const { pieces, separator } = pattern;
  const setPieces = (next: readonly NamePiece[]): void => onChange({ pieces: next, separator });
  const move = (from: number, by: -1 | 1): void => {
    const next = pieces.filter((_, i) => i !== from);
    setPieces([...next.slice(0, from + by), pieces[from]!, ...next.slice(from + by)]);
  };
  const unused = NAME_PIECES.filter((kind) => kind === 'words' || !pieces.some((piece) => piece.kind === kind));
  return (
    <View className="gap-2">
      <View role="list" aria-label={t`Pieces of the name, in order`} className="gap-1">
        {pieces.map((piece, i) => (
          <View
            key={`${piece.kind} ${i}`}
            role="listitem"
            className="flex-row items-center rounded border border-rule-faint bg-sheet ps-3"
          >
            <View className="flex-1 flex-row items-center gap-2">
              <Text variant="strong">{t(PIECE_NAMES[piece.kind])}</Text>
              {piece.kind === 'words' ? (
                <WordsField
                  text={piece.text ?? ''}
                  onKeep={(text) => setPieces(pieces.map((each, k) => (k === i ? { ...each, text } : each)))}
                />
              ) : null}
              {piece.kind === 'date' ? (
                <Button
                  variant="text"
                  label={piece.form ?? DATE_FORMS[0]}
                  accessibilityLabel={t`${{ form: piece.form ?? DATE_FORMS[0] }}: write the date another way`}
                  onPress={() =>
                    setPieces(
                      pieces.map((each, k) =>
                        k === i
                          ? {
                              ...each,
                              form: DATE_FORMS[
                                (DATE_FORMS.indexOf(each.form ?? DATE_FORMS[0]) + 1) % DATE_FORMS.length
                              ]!,
                            }
                          : each,
                      ),
                    )
                  }
                />
              ) : null}
            </View>
            <Button
              variant="text"
              label=""
              icon={PreviousIcon}
              accessibilityLabel={t`${{ piece: t(PIECE_NAMES[piece.kind]) }} earlier`}
              disabled={i === 0}
              onPress={() => move(i, -1)}
            />
            <Button
              variant="text"
              label=""
              icon={NextIcon}
              accessibilityLabel={t`${{ piece: t(PIECE_NAMES[piece.kind]) }} later`}
              disabled={i === pieces.length - 1}
              onPress={() => move(i, 1)}
            />
            <Button
              variant="text"
              label=""
              icon={X}
              accessibilityLabel={t`Leave out ${{ piece: t(PIECE_NAMES[piece.kind]) }}`}
              onPress={() => setPieces(pieces.filter((_, k) => k !== i))}
            />
          </View>
        ))}
      </View>
      <View role="group" aria-label={t`Add a piece`} className="flex-row flex-wrap gap-2">
        {unused.map((kind) => (
          <Button
            key={kind}
            label={`+ ${t(PIECE_NAMES[kind])}`}
            accessibilityLabel={t`Add ${{ piece: t(PIECE_NAMES[kind]) }}`}
            onPress={() => setPieces([...pieces, { kind }])}
          />
        ))}
      </View>
      <ChoiceGroup
        label={t`Between the pieces`}
        choices={SEPARATORS.map((each) => ({ value: each, label: t(SEPARATOR_NAMES[each]) }))}
        value={separator}
        onChange={(each) => onChange({ pieces, separator: each })}
      />
    </View>
  );
}

function WordsField({ text, onKeep }: { readonly text: string; readonly onKeep: (text: string) => void }) {
  const [written, setWritten] = useState(text);
  return (
    <TextInput
      aria-label={t`Words in the name`}
      value={written}
      onChangeText={setWritten}
      onBlur={() => onKeep(written)}
      onSubmitEditing={() => onKeep(written)}
      maxLength={60}
      className="min-h-[44px] min-w-0 flex-1 border-b border-rule bg-sheet px-2 font-read text-read text-ink"
    />
  );
}

/** Who hands in, as the course wants it written; once for all hand-ins. */
function WhoFields() {
  const { profile } = useEngine();
  const { family, first, number } = useProfile();
  const fields = [
    ['first', t`First name`, first],
    ['family', t`Family name`, family],
    ['number', t`Student number`, number],
  ] as const;
  return (
    <View className="flex-row flex-wrap gap-2">
      {fields.map(([key, label, value]) => (
        <View key={key} className="min-w-[140px] flex-1 gap-1">
          <Text variant="soft" nativeID={`who-${key}`}>
            {label}
          </Text>
          <TextInput
            aria-labelledby={`who-${key}`}
            value={value}
            onChangeText={(text) => void profile.change({ [key]: text.slice(0, 60) })}
            className={FIELD}
          />
        </View>
      ))}
    </View>
  );
}
