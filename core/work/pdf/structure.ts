import {
  PDFHexString,
  PDFName,
  PDFOperator,
  PDFOperatorNames,
  type PDFDocument,
  type PDFPage,
  type PDFRef,
} from '@cantoo/pdf-lib';
import type { Area } from './boundPage';

/** What a part of a page is (ISO 32000-1, 14.8.4). */
export type PartKind = 'H1' | 'H2' | 'P' | 'Figure';

/** A part of a page, and the sequences of its content that belong to it. */
export interface Part {
  readonly kind: PartKind;
  /** What stands for a figure where it is not seen, and where on the page it is. */
  readonly figure?: { readonly text: string; readonly area: Area };
  readonly sequences: number[];
}

/** The parts of one page, in the order in which they are read. */
export class Section {
  private readonly parts: Part[] = [];
  /** How many sequences of marked content the page has. */
  private count = 0;
  /** To which part each of them belongs. */
  private readonly owners: Part[] = [];

  constructor(readonly page: PDFPage) {}

  /** A new part behind those that there are. */
  add(kind: PartKind, figure?: Part['figure']): Part {
    const part: Part = { kind, ...(figure === undefined ? {} : { figure }), sequences: [] };
    this.parts.push(part);
    return part;
  }

  /** What is drawn from here to the end belongs to a part. */
  begin(part: Part): void {
    const number = this.count++;
    part.sequences.push(number);
    this.owners.push(part);
    this.page.pushOperators(
      PDFOperator.of(PDFOperatorNames.BeginMarkedContentSequence, [PDFName.of(part.kind), `<</MCID ${number}>>`]),
    );
  }

  /** What is drawn from here to the end means nothing. */
  beginArtifact(): void {
    this.page.pushOperators(PDFOperator.of(PDFOperatorNames.BeginMarkedContent, [PDFName.of('Artifact')]));
  }

  end(): void {
    this.page.pushOperators(PDFOperator.of(PDFOperatorNames.EndMarkedContent));
  }

  /**
   * Writes the parts that have content.
   * @returns the section's element, and for each sequence of the page the element it belongs to
   */
  write({ context }: PDFDocument, parent: PDFRef): { readonly section: PDFRef; readonly owners: readonly PDFRef[] } {
    const section = context.nextRef();
    const refs = new Map<Part, PDFRef>();
    for (const part of this.parts) {
      const { kind, figure, sequences } = part;
      if (sequences.length === 0) continue;
      const element = context.obj({
        Type: 'StructElem',
        S: kind,
        P: section,
        Pg: this.page.ref,
        K: sequences.length === 1 ? sequences[0]! : [...sequences],
      });
      if (figure !== undefined) {
        const { x, y, width, height } = figure.area;
        element.set(PDFName.of('Alt'), PDFHexString.fromText(figure.text));
        element.set(
          PDFName.of('A'),
          context.obj({ O: 'Layout', Placement: 'Block', BBox: [x, y, x + width, y + height].map(hundredths) }),
        );
      }
      refs.set(part, context.register(element));
    }
    context.assign(section, context.obj({ Type: 'StructElem', S: 'Sect', P: parent, K: [...refs.values()] }));
    return { section, owners: this.owners.map((part) => refs.get(part)!) };
  }
}

const hundredths = (value: number): number => Math.round(value * 100) / 100;

/**
 * What the pages of a file are made of, for those who do not see them: a tree of sections, headings, paragraphs and figures
 * (Tagged PDF, ISO 32000-1, 14.7 and 14.8; PDF/UA-1, ISO 14289-1).
 */
export class Structure {
  private readonly sections: Section[] = [];

  /** A page's section, behind those that there are, or before them. */
  section(page: PDFPage, place: 'first' | 'last' = 'last'): Section {
    const section = new Section(page);
    if (place === 'first') this.sections.unshift(section);
    else this.sections.push(section);
    return section;
  }

  /** Writes the tree into the file, once all has been drawn. */
  write(pdf: PDFDocument): void {
    const { context, catalog } = pdf;
    const [root, whole] = [context.nextRef(), context.nextRef()];
    const written = this.sections.map((section) => section.write(pdf, whole));
    this.sections.forEach(({ page }, k) => page.node.set(PDFName.of('StructParents'), context.obj(k)));
    context.assign(
      whole,
      context.obj({ Type: 'StructElem', S: 'Document', P: root, K: written.map(({ section }) => section) }),
    );
    const owners = context.obj({ Nums: written.flatMap((each, k) => [k, [...each.owners]]) });
    context.assign(
      root,
      context.obj({
        Type: 'StructTreeRoot',
        K: [whole],
        ParentTree: context.register(owners),
        ParentTreeNextKey: written.length,
      }),
    );
    catalog.set(PDFName.of('StructTreeRoot'), root);
    catalog.set(PDFName.of('MarkInfo'), context.obj({ Marked: true }));
  }
}
