import Eraser from 'lucide-react-native/icons/eraser';
import Highlighter from 'lucide-react-native/icons/highlighter';
import PenLine from 'lucide-react-native/icons/pen-line';
import Signature from 'lucide-react-native/icons/signature';
import TypeIcon from 'lucide-react-native/icons/type';
import { useState } from 'react';
import { Pressable, View } from 'react-native';
import { MARK_COLOURS, type MarkColour } from '../../core/marks/marks';
import { Action, type Icon } from '../components/Action';
import { CropMarks } from '../components/CropMarks';
import { DraftActions } from '../components/DraftActions';
import { RangeSlider } from '../components/RangeSlider';
import { Words } from '../components/Words';
import type { Zoom } from '../zoom/useZoom';
import { ZoomActions } from '../zoom/ZoomActions';
import { SignaturePad } from './SignaturePad';
import { useSignatureStore } from './signatureStore';
import { MARK_TOOLS, type MarkDraft, type MarkTool } from './useMarkDraft';

const TOOLS: Readonly<Record<MarkTool, { readonly label: string; readonly icon: Icon; readonly spoken: string }>> = {
  pen: { label: 'Pen', icon: PenLine, spoken: 'Pen' },
  highlighter: { label: 'Highlight', icon: Highlighter, spoken: 'Highlighter' },
  note: { label: 'Note', icon: TypeIcon, spoken: 'Note in text' },
  signature: { label: 'Sign', icon: Signature, spoken: 'Signature' },
  eraser: { label: 'Eraser', icon: Eraser, spoken: 'Eraser' },
};
const COLOUR_NAMES: Readonly<Record<MarkColour, string>> = {
  '#1d2733': 'Black',
  '#1f4f9e': 'Blue',
  '#a3243b': 'Red',
  '#2f6b3a': 'Green',
  '#e6b800': 'Yellow',
};

/** What is in hand on the marks tool, its colour and breadth, and its steps. */
export function MarkActions({
  draft,
  zoom,
  wide,
}: {
  readonly draft: MarkDraft;
  readonly zoom: Zoom;
  readonly wide: boolean;
}) {
  const signed = useSignatureStore((s) => s.strokes.length > 0);
  const [drawing, setDrawing] = useState(false);
  const take = (tool: MarkTool): void => {
    draft.choose(tool);
    if (tool === 'signature' && !signed) setDrawing(true);
  };
  return (
    <View className={wide ? 'gap-2 p-3' : 'bg-paper'}>
      <View role="toolbar" aria-label="In hand" className="flex-row">
        {MARK_TOOLS.map((tool) => (
          <Action key={tool} kind="verb" {...TOOLS[tool]} on={draft.tool === tool} onPress={() => take(tool)} />
        ))}
      </View>
      {/* as high with every tool, so that the page above does not move when another one is taken */}
      <View className={wide ? 'gap-2' : 'min-h-[88px]'}>
        {draft.tool === 'eraser' ? null : (
          <View role="radiogroup" aria-label="Colour" className="flex-row px-3">
            {MARK_COLOURS.map((colour) => (
              <Pressable
                key={colour}
                role="radio"
                aria-label={COLOUR_NAMES[colour]}
                aria-checked={draft.colour === colour}
                onPress={() => draft.setColour(colour)}
                className="h-[44px] flex-1 items-center justify-center"
              >
                <View className="h-7 w-7 border border-rule" style={{ backgroundColor: colour }} />
                {draft.colour === colour ? <CropMarks /> : null}
              </Pressable>
            ))}
          </View>
        )}
        {draft.tool === 'pen' || draft.tool === 'highlighter' ? (
          <View className="flex-row items-center gap-3 px-4">
            <Words as="soft" aria-hidden>
              Thickness
            </Words>
            <View className="flex-1">
              <RangeSlider
                label="Thickness"
                value={draft.breadth}
                least={0}
                most={1}
                step={0.05}
                valueText={`${Math.round(draft.breadth * 100)} %`}
                onChange={draft.setBreadth}
              />
            </View>
          </View>
        ) : null}
        {draft.tool === 'signature' && signed ? (
          <View className="items-start px-3">
            <Action label="Draw another signature" onPress={() => setDrawing(true)} />
          </View>
        ) : null}
      </View>
      <DraftActions draft={draft} one="mark" all="marks" isEmpty={draft.marks.length === 0} />
      <ZoomActions zoom={zoom} insteadOf="writing" />
      {drawing ? <SignaturePad onDone={() => setDrawing(false)} /> : null}
    </View>
  );
}
