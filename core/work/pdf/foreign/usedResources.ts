import { PDFDict, PDFName, PDFRawStream, PDFRef, PDFStream, type PDFContext, type PDFObject } from '@cantoo/pdf-lib';
import { namesIn, streamsOf } from './contentNames';
import { withPlainJpeg } from './plainPicture';

const name = (text: string): PDFName => PDFName.of(text);

/** What tells who made a picture, with what and when, or stands in for it elsewhere (ISO 32000-1, tables 89 and 95). */
const ABOUT = [
  'Metadata',
  'PieceInfo',
  'LastModified',
  'OPI',
  'Alternates',
  'AF',
  'Ref',
  'StructParent',
  'StructParents',
];
/** Resources that content calls by name (ISO 32000-1, table 33). */
const CALLED_BY_NAME = ['XObject', 'Font', 'ExtGState', 'ColorSpace', 'Pattern', 'Shading', 'Properties'];

/** Colour spaces that stand in for the device's own without being called (ISO 32000-1, 8.6.5.6). */
const USED_UNCALLED = ['DefaultGray', 'DefaultRGB', 'DefaultCMYK'];

const isType3 = (dict: PDFDict): boolean => dict.get(name('Subtype')) === name('Type3');

/**
 * Cuts a page's resources down to what its content calls: programs often give all pages of a file the same resources, and
 * what is drawn on one page alone would come along with any other. Forms, patterns, soft masks and fonts that are drawn are
 * cut down in the same way. What several pages share stays shared.
 */
export class UsedResources {
  private readonly cleaned = new Map<PDFRef, PDFRef>();

  /** @param context - of the file that the pages come from; new objects are put into it */
  constructor(private readonly context: PDFContext) {}

  /** What of the resources is used, as a new dictionary. */
  of(resources: PDFDict | undefined, contents: readonly PDFStream[]): PDFDict {
    const kept = PDFDict.withContext(this.context);
    if (resources === undefined) return kept;
    const names = this.namesCalled(resources, contents);
    for (const [key, value] of resources.entries()) {
      const group = this.context.lookup(value);
      if (!CALLED_BY_NAME.includes(key.decodeText()) || !(group instanceof PDFDict)) {
        if (key.decodeText() === 'ProcSet') kept.set(key, value);
        continue;
      }
      const used = PDFDict.withContext(this.context);
      for (const [called, resource] of group.entries())
        if (names === null || names.has(called.decodeText()) || USED_UNCALLED.includes(called.decodeText()))
          used.set(called, this.clean(resource));
      if (used.keys().length > 0) kept.set(key, used);
    }
    return kept;
  }

  /** An appearance or another form with its own resources cut down; what else is referred to, as it is. */
  clean(value: PDFObject): PDFObject {
    if (!(value instanceof PDFRef)) return this.cleanDirect(value);
    const before = this.cleaned.get(value);
    if (before !== undefined) return before;
    const found = this.context.lookup(value);
    if (!(found instanceof PDFStream) && !(found instanceof PDFDict && this.drawsMore(found))) return value;
    const ref = this.context.nextRef();
    // known before it is cleaned: forms may call each other in a circle
    this.cleaned.set(value, ref);
    this.context.assign(ref, this.cleanDirect(found));
    return ref;
  }

  /** Soft masks and fonts whose letters are drawn have resources of their own. */
  private drawsMore(dict: PDFDict): boolean {
    return isType3(dict) || this.context.lookup(dict.get(name('SMask'))) instanceof PDFDict;
  }

  private cleanDirect(value: PDFObject): PDFObject {
    if (value instanceof PDFRawStream) return this.cleanStream(value);
    if (!(value instanceof PDFDict) || !this.drawsMore(value)) return value;
    const dict = value.clone();
    const softMask = this.context.lookup(value.get(name('SMask')));
    if (softMask instanceof PDFDict) {
      const mask = softMask.clone();
      const group = mask.get(name('G'));
      if (group !== undefined) mask.set(name('G'), this.clean(group));
      dict.set(name('SMask'), mask);
    }
    if (isType3(value)) {
      const glyphs = this.context.lookup(dict.get(name('CharProcs')));
      const drawn = glyphs instanceof PDFDict ? glyphs.values().flatMap((each) => streamsOf(each, this.context)) : [];
      this.cutDown(dict, drawn);
    }
    return dict;
  }

  private cleanStream(stream: PDFRawStream): PDFRawStream {
    const dict = stream.dict.clone();
    for (const key of ABOUT) dict.delete(name(key));
    const mask = dict.get(name('SMask'));
    if (mask !== undefined) dict.set(name('SMask'), this.clean(mask));
    const copy = PDFRawStream.of(dict, stream.contents);
    this.cutDown(dict, [copy]);
    return withPlainJpeg(copy) ?? copy;
  }

  /** Cuts down the resources of something that is drawn, where it has its own. */
  private cutDown(dict: PDFDict, drawn: readonly PDFStream[]): void {
    const resources = this.context.lookup(dict.get(name('Resources')));
    if (resources instanceof PDFDict) dict.set(name('Resources'), this.of(resources, drawn));
  }

  /** Names that the content calls, and those that forms without resources of their own call in its place. */
  private namesCalled(resources: PDFDict, contents: readonly PDFStream[]): ReadonlySet<string> | null {
    const forms = this.context.lookup(resources.get(name('XObject')));
    const drawn = [...contents];
    const seen = new Set<PDFStream>(drawn);
    for (;;) {
      const names = namesIn(drawn);
      if (names === null || !(forms instanceof PDFDict)) return names;
      const more = forms.entries().flatMap(([called, value]) => {
        const form = this.context.lookup(value);
        const borrows =
          form instanceof PDFStream &&
          form.dict.get(name('Subtype')) === name('Form') &&
          form.dict.get(name('Resources')) === undefined;
        return borrows && names.has(called.decodeText()) && !seen.has(form) ? [form] : [];
      });
      if (more.length === 0) return names;
      for (const form of more) {
        seen.add(form);
        drawn.push(form);
      }
    }
  }
}
