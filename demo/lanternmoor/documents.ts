/** The demo site's documents: two PDFs and, on purpose, one Word file. */
import { zipSync } from 'fflate';
import { PDFDocument, StandardFonts } from 'pdf-lib';

// A fixed date, so that building twice gives the same bytes.
const MADE = new Date('2026-09-01T12:00:00Z');

async function pdf(title: string, lines: readonly string[]): Promise<Uint8Array> {
  const document = await PDFDocument.create();
  document.setTitle(title);
  document.setCreationDate(MADE);
  document.setModificationDate(MADE);
  const [serif, sans] = [
    await document.embedFont(StandardFonts.TimesRoman),
    await document.embedFont(StandardFonts.Helvetica),
  ];
  const page = document.addPage([595, 842]);
  page.drawText(title, { x: 60, y: 760, size: 26, font: serif });
  lines.forEach((line, index) => page.drawText(line, { x: 60, y: 710 - index * 22, size: 12, font: sans }));
  return document.save({ useObjectStreams: false });
}

/** The least a WordprocessingML file consists of (ECMA-376 part 1, section 11.3.10). */
function docx(paragraphs: readonly string[]): Uint8Array {
  const text = (xml: string) =>
    new TextEncoder().encode(`<?xml version="1.0" encoding="UTF-8" standalone="yes"?>${xml}`);
  const body = paragraphs.map((paragraph) => `<w:p><w:r><w:t>${paragraph}</w:t></w:r></w:p>`).join('');
  return zipSync(
    {
      '[Content_Types].xml': text(
        '<Types xmlns="http://schemas.openxmlformats.org/package/2006/content-types"><Default Extension="rels" ContentType="application/vnd.openxmlformats-package.relationships+xml"/><Override PartName="/word/document.xml" ContentType="application/vnd.openxmlformats-officedocument.wordprocessingml.document.main+xml"/></Types>',
      ),
      '_rels/.rels': text(
        '<Relationships xmlns="http://schemas.openxmlformats.org/package/2006/relationships"><Relationship Id="r1" Type="http://schemas.openxmlformats.org/officeDocument/2006/relationships/officeDocument" Target="word/document.xml"/></Relationships>',
      ),
      'word/document.xml': text(
        `<w:document xmlns:w="http://schemas.openxmlformats.org/wordprocessingml/2006/main"><w:body>${body}</w:body></w:document>`,
      ),
    },
    { mtime: MADE },
  );
}

export async function documents(): Promise<Map<string, Uint8Array>> {
  return new Map([
    [
      'visitor-guide.pdf',
      await pdf('Visitor guide', [
        'Open nights: Thursday to Saturday, from half an hour after sunset.',
        'Solar terrace: every clear day from May to July, 11:00 to 16:00.',
        'Bus 41 from the market square; the last one back leaves at 23:10.',
        'Bring a coat. Leave white lights at home.',
      ]),
    ],
    [
      'lectures.pdf',
      await pdf('Winter lectures', [
        '6 January: Why the sky is dark',
        '20 January: Brass and glass',
        '3 February: Stones from elsewhere',
        '17 February: The colour of stars',
        '3 March: Timing an asteroid',
        '17 March: Your questions',
      ]),
    ],
    [
      'risk-assessment.docx',
      docx([
        'Risk assessment for school visits',
        'Steps to the dome: eleven, with a handrail.',
        'Moor at night: keep to the path, one adult to eight pupils.',
      ]),
    ],
  ]);
}
