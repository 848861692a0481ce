import { PDFArray, PDFDict, PDFName, PDFStream, type PDFContext, type PDFObject, type PDFPage } from '@cantoo/pdf-lib';
import { streamsOf } from './contentNames';
import { type Destination, type Destinations } from './destinations';
import type { UsedResources } from './usedResources';

const name = (text: string): PDFName => PDFName.of(text);

/** What of a page is taken over beside its resources and annotations (ISO 32000-1, table 30): what it shows and how large it is. */
const PAGE_KEYS = [
  'Type',
  'MediaBox',
  'CropBox',
  'BleedBox',
  'TrimBox',
  'ArtBox',
  'Rotate',
  'UserUnit',
  'Contents',
  'Group',
];
/** Things that run, play or carry files along (ISO 32000-1, table 169), and windows that belong to others; what is written or drawn on a page stays. */
const LEFT_OUT = ['FileAttachment', 'RichMedia', 'Movie', 'Sound', 'Screen', '3D', 'Popup', 'PrinterMark', 'TrapNet'];
/** What of an annotation is taken over: how it looks and what it says. Nothing that acts, nothing that leads to another object than its own parts. */
const ANNOTATION_KEYS = [
  ...[
    'Type',
    'Subtype',
    'Rect',
    'Contents',
    'F',
    'AS',
    'Border',
    'BS',
    'BE',
    'C',
    'CA',
    'ca',
    'IC',
    'Name',
    'T',
    'RC',
    'DS',
  ],
  ...[
    'L',
    'LE',
    'LL',
    'LLE',
    'LLO',
    'Cap',
    'CP',
    'CO',
    'CL',
    'IT',
    'RD',
    'Sy',
    'Vertices',
    'InkList',
    'QuadPoints',
    'H',
    'OC',
    'MK',
  ],
];
/** What of a form's field is taken over, from the field that it is a part of, too: what was filled in. */
const FIELD_KEYS = ['FT', 'V', 'Ff', 'DA', 'Q', 'Opt', 'MaxLen', 'TI', 'I'];
/** Fields within fields are followed so far up. */
const DEEPEST_FIELD = 12;

/** An annotation that is taken over; a link leads to a page of the same file. */
export interface CleanAnnotation {
  readonly dict: PDFDict;
  readonly leadsTo: Destination | null;
}

/** A page of another PDF, without what acts by itself, leads outside, tells of its making, or belongs to other pages. */
export interface CleanPage {
  readonly dict: PDFDict;
  readonly annotations: readonly CleanAnnotation[];
}

/**
 * Takes of a page what is seen on it: only keys that are known to belong to it are kept, and of its resources only what is
 * called. The page itself is left as it is; what comes back lives in the same file's context.
 * @param resources - one for all pages of a file, so that what they share is cleaned once
 */
export function cleanPage({ node }: PDFPage, resources: UsedResources, destinations: Destinations): CleanPage {
  const { context } = node;
  const dict = PDFDict.withContext(context);
  for (const key of PAGE_KEYS) {
    const value = node.getInheritableAttribute(name(key));
    if (value !== undefined) dict.set(name(key), value);
  }
  const own = context.lookup(node.getInheritableAttribute(name('Resources')));
  dict.set(
    name('Resources'),
    resources.of(own instanceof PDFDict ? own : undefined, streamsOf(node.get(name('Contents')), context)),
  );
  const annotations = context.lookup(node.get(name('Annots')));
  return {
    dict,
    annotations: (annotations instanceof PDFArray ? annotations.asArray() : []).flatMap((value) => {
      const found = context.lookup(value);
      return found instanceof PDFDict ? cleanAnnotation(found, resources, destinations) : [];
    }),
  };
}

function cleanAnnotation(found: PDFDict, resources: UsedResources, destinations: Destinations): CleanAnnotation[] {
  const { context } = found;
  const kind = context.lookup(found.get(name('Subtype')));
  const subtype = kind instanceof PDFName ? kind.decodeText() : '';
  if (LEFT_OUT.includes(subtype)) return [];
  const leadsTo = subtype === 'Link' ? destinations.of(found) : null;
  if (subtype === 'Link' && leadsTo === null) return [];
  const dict = PDFDict.withContext(context);
  for (const key of ANNOTATION_KEYS) {
    const value = found.get(name(key));
    if (value !== undefined) dict.set(name(key), value);
  }
  for (const key of subtype === 'Widget' ? FIELD_KEYS : []) {
    const value = fieldValue(found, name(key));
    if (value !== undefined) dict.set(name(key), value);
  }
  const shown = shownAppearance(found, resources);
  if (shown !== null) dict.set(name('AP'), shown);
  return [{ dict, leadsTo }];
}

/** A field's value, or that of the field it is a part of. */
function fieldValue(field: PDFDict, key: PDFName): PDFObject | undefined {
  for (let dict: PDFObject | undefined = field, depth = 0; dict instanceof PDFDict && depth < DEEPEST_FIELD; depth++) {
    const value = dict.get(key);
    if (value !== undefined) return value;
    dict = dict.context.lookup(dict.get(name('Parent')));
  }
  return undefined;
}

/** How an annotation looks as it lies there; not how it would look under a pointer. */
function shownAppearance(annotation: PDFDict, resources: UsedResources): PDFDict | null {
  const { context } = annotation;
  const all = context.lookup(annotation.get(name('AP')));
  const normal = all instanceof PDFDict ? all.get(name('N')) : undefined;
  if (normal === undefined) return null;
  const shown = PDFDict.withContext(context);
  const found = context.lookup(normal);
  if (found instanceof PDFStream) shown.set(name('N'), resources.clean(normal));
  else if (found instanceof PDFDict) shown.set(name('N'), statesOf(found, context, resources));
  return shown;
}

function statesOf(states: PDFDict, context: PDFContext, resources: UsedResources): PDFDict {
  const cleaned = PDFDict.withContext(context);
  for (const [state, value] of states.entries()) cleaned.set(state, resources.clean(value));
  return cleaned;
}
