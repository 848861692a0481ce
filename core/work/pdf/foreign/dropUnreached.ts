import {
  PDFArray,
  PDFDict,
  PDFName,
  PDFNull,
  PDFRef,
  PDFStream,
  type PDFDocument,
  type PDFObject,
} from '@cantoo/pdf-lib';

const PAGE = PDFName.of('Page');
const TYPE = PDFName.of('Type');

/** Takes out of a file every object that nothing leads to, and every page that is not one of its own, whatever led to it. */
export function dropUnreached(pdf: PDFDocument): void {
  const { context } = pdf;
  const own = new Set(pdf.getPages().map(({ ref }) => ref));
  const isStray = (ref: PDFRef, found: PDFObject | undefined): boolean =>
    found instanceof PDFDict && found.get(TYPE) === PAGE && !own.has(ref);
  const reached = new Set<PDFRef>();
  const seen = new Set<PDFObject>();
  const waiting: PDFObject[] = [context.trailerInfo.Root, context.trailerInfo.Info].filter(
    (each) => each !== undefined,
  );
  /** What an object holds in its place, and goes on from there. */
  const follow = (value: PDFObject, leave: () => void): void => {
    if (!(value instanceof PDFRef)) waiting.push(value);
    else if (isStray(value, context.lookup(value))) leave();
    else if (!reached.has(value)) waiting.push(value);
  };
  for (let each = waiting.pop(); each !== undefined; each = waiting.pop()) {
    let object: PDFObject | undefined = each;
    if (each instanceof PDFRef) {
      reached.add(each);
      object = context.lookup(each);
    }
    if (object === undefined || seen.has(object)) continue;
    seen.add(object);
    const dict = object instanceof PDFStream ? object.dict : object;
    if (dict instanceof PDFDict) for (const [key, value] of dict.entries()) follow(value, () => dict.delete(key));
    else if (dict instanceof PDFArray) dict.asArray().forEach((value, k) => follow(value, () => dict.set(k, PDFNull)));
  }
  for (const [ref] of context.enumerateIndirectObjects()) if (!reached.has(ref)) context.delete(ref);
}
