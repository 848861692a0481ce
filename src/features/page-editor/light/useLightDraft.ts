import { useEffect, useState } from 'react';
import {
  isPlainLight,
  PLAIN_LIGHT,
  type Finish,
  type LightSettings,
} from '../../../../core/imaging/finish/finishSettings';
import type { HandIn, Page } from '../../../../core/work/hand-in/handIn';
import type { Recipe } from '../../../../core/work/recipe/recipe';
import type { StepLabel } from '../../../data/stepLabel';
import { useEngine } from '../../../engine/useEngine';

/** How the paper is shown while its light is looked at: as it will be, as it was shot, or both with a line between them. */
export type LightView = 'after' | 'before' | 'both';

export interface LightDraft {
  /** The page's recipe with what is being tried. */
  readonly recipe: Recipe;
  /** Something is being moved: pictures follow the hand, smaller. */
  readonly moving: boolean;
  readonly view: LightView;
  /** Where the line stands, as a share of the page's width. */
  readonly line: number;
  readonly chooseFinish: (finish: Finish) => void;
  readonly try: (settings: Partial<LightSettings>) => void;
  /** Keeps what is being tried, as one step. */
  readonly keep: () => void;
  readonly change: (settings: Partial<LightSettings>) => void;
  readonly reset: (() => void) | null;
  readonly setView: (view: LightView) => void;
  readonly moveLine: (line: number) => void;
  /** Puts this page's light on others too, as one step. */
  readonly useOn: (pageIds: readonly string[]) => void;
}

/** What the light tool holds for a page: settings that are being tried, and how the page is looked at. */
export function useLightDraft(handIn: HandIn, page: Page): LightDraft {
  const { dispatch } = useEngine();
  const { finish } = page.recipe;
  const [tried, setTried] = useState<LightSettings | null>(null);
  const [view, setView] = useState<LightView>('after');
  const [line, setLine] = useState(0.5);
  const light = tried ?? page.recipe.light;
  // what was tried is kept once the page itself says so; until then the page would jump back for a moment
  const saved = JSON.stringify(page.recipe.light);
  useEffect(() => setTried(null), [saved, finish]);
  const keepLight = (next: Pick<Recipe, 'finish' | 'light'>, label: StepLabel): void =>
    void dispatch({ kind: 'setLight', handInId: handIn.id, pageIds: [page.id], ...next, label });
  return {
    recipe: tried === null ? page.recipe : { ...page.recipe, light },
    moving: tried !== null,
    view,
    line,
    chooseFinish: (next) => {
      if (next !== finish) keepLight({ finish: next, light: page.recipe.light }, { key: 'finish' });
    },
    try: (settings) => setTried({ ...light, ...settings }),
    keep: () => {
      if (tried === null) return;
      if (JSON.stringify(tried) === saved) setTried(null);
      else keepLight({ finish, light: tried }, { key: 'light' });
    },
    change: (settings) => keepLight({ finish, light: { ...light, ...settings } }, { key: 'light' }),
    reset: isPlainLight(light) ? null : () => keepLight({ finish, light: PLAIN_LIGHT }, { key: 'lightReset' }),
    setView,
    moveLine: setLine,
    useOn: (pageIds) =>
      void dispatch({
        kind: 'setLight',
        handInId: handIn.id,
        pageIds,
        finish,
        light,
        label: { key: 'light', count: pageIds.length },
      }),
  };
}
