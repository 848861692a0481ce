import { t } from '@lingui/core/macro';
import { useState } from 'react';
import { View } from 'react-native';
import type { Page } from '../../../core/work/hand-in/handIn';
import { useEngine } from '../../engine/useEngine';
import { errorText } from '../../i18n/errorText';
import { Button } from '../../ui/Button';
import { StatusMessage } from '../../ui/StatusMessage';

/** Makes two pages of a photo of an open book that came as one. */
export function SplitSpread({ handInId, page }: { readonly handInId: string; readonly page: Page }) {
  const { scheduler, small, dispatch } = useEngine();
  const [working, setWorking] = useState(false);
  const [problem, setProblem] = useState<string | null>(null);
  const split = async (): Promise<void> => {
    setWorking(true);
    setProblem(null);
    try {
      const { id: pageId, originalId, recipe } = page;
      const original = await small.whole(page);
      const { pages } = await scheduler.run(
        { kind: 'find', original, finish: recipe.finish, pageKind: 'spread' },
        { priority: 'visible' },
      );
      await dispatch({
        kind: 'splitSpread',
        handInId,
        pageId,
        originalId,
        pages: pages.map((each) => ({ recipe: each.recipe, findings: each.verdict.findings })),
      });
    } catch (error) {
      setProblem(errorText(error, t`The photo could not be looked at. Try again.`));
    } finally {
      setWorking(false);
    }
  };
  return (
    <View className="gap-2 px-3">
      <Button
        label={working ? t`Looking for the fold …` : t`Open book: make two pages`}
        disabled={working}
        onPress={() => void split()}
      />
      <StatusMessage status="error" announce>
        {problem}
      </StatusMessage>
    </View>
  );
}
