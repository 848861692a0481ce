import cookieParser from 'cookie-parser';
import express, { Router, type Request, type Response } from 'express';
import { NoteBody } from '../../contract/officeBodies';
import { FotoplanError } from '../../core/errors';
import { validated } from '../validated';
import { createCollegeSession } from '../college/collegeSession';
import type { SignInGuard } from '../college/signInGuard';
import { sameOrigin } from '../sameOrigin';
import type { OfficeRepository, SignedIn } from './officeRepository';

/*
 * The office as people see it: plain pages made on the server, in a look of its own, so that nobody takes it for a part of
 * Fotoplan.
 */

const escape = (text: string): string =>
  text.replaceAll('&', '&amp;').replaceAll('<', '&lt;').replaceAll('>', '&gt;').replaceAll('"', '&quot;');
const when = (ms: number): string =>
  `<time datetime="${new Date(ms).toISOString()}">${new Date(ms).toISOString().slice(0, 16).replace('T', ' ')} UTC</time>`;

const STYLE = `
:root { color-scheme: light; --green: #14523f; --line: #b9c7c0; }
* { box-sizing: border-box; }
body { margin: 0; font: 17px/1.5 Georgia, 'DejaVu Serif', serif; color: #16211d; background: #eef3f0; }
header { background: var(--green); color: #fff; padding: 14px 20px; display: flex; gap: 16px; align-items: baseline; flex-wrap: wrap; }
header a { color: #fff; }
header strong { font-size: 20px; }
main { max-width: 960px; margin: 0 auto; padding: 20px; }
h1 { font-size: 24px; margin: 0 0 12px; } h2 { font-size: 19px; margin: 28px 0 8px; }
table { width: 100%; border-collapse: collapse; background: #fff; } th, td { text-align: left; padding: 10px; border: 1px solid var(--line); vertical-align: top; }
a { color: var(--green); } button, input, textarea { font: inherit; padding: 10px; min-height: 44px; }
button { background: var(--green); color: #fff; border: 0; border-radius: 4px; }
input, textarea { width: 100%; border: 1px solid #5c6b64; border-radius: 4px; background: #fff; color: inherit; }
label { display: block; margin: 12px 0 4px; } form { max-width: 460px; }
.problem { color: #8c1c1c; font-weight: bold; } .late { color: #8c4a00; }
canvas { display: block; width: 100%; height: auto; margin: 0 0 16px; background: #fff; border: 1px solid var(--line); }
.note { background: #fff8dc; border: 1px solid #d8c98a; padding: 8px 12px; margin: 8px 0; }
@media (max-width: 600px) {
  thead { display: none; } table, tbody, tr, td { display: block; } table { background: none; } tr { background: #fff; border: 1px solid var(--line); margin: 0 0 12px; }
  td { border: 0; padding: 6px 12px; overflow-wrap: anywhere; } td::before { content: attr(data-head) ': '; color: #4a5a53; }
}
@media (min-width: 900px) { .to-form { display: none; } .reading { display: grid; grid-template-columns: 1fr 300px; gap: 24px; align-items: start; } .reading aside { position: sticky; top: 16px; } }`;

/** Rows of cells that are HTML already; a narrow screen shows each row as a card with the heads before the cells. */
const table = (heads: readonly string[], rows: readonly (readonly string[])[]): string =>
  rows.length === 0
    ? '<p>Nothing handed in yet.</p>'
    : `<table><thead><tr>${heads.map((head) => `<th>${head}</th>`).join('')}</tr></thead><tbody>${rows.map((cells) => `<tr>${cells.map((cell, i) => `<td data-head="${heads[i]}">${cell}</td>`).join('')}</tr>`).join('')}</tbody></table>`;

const shell = (title: string, who: SignedIn | null, body: string): string => `<!doctype html>
<html lang="en"><head><meta charset="utf-8"><meta name="viewport" content="width=device-width,initial-scale=1"><title>${escape(title)}</title><style>${STYLE}</style></head>
<body><header><strong>Skerry Point Course Office</strong>${who === null ? '' : `<span>${escape(`${who.first} ${who.family}`)}</span><form method="post" action="/office/leave" style="margin-left:auto"><button>Sign out</button></form>`}</header><main>${body}</main></body></html>`;

const signInForm = (
  problem = '',
): string => `<h1>Sign in</h1>${problem === '' ? '' : `<p class="problem" role="alert">${escape(problem)}</p>`}
<form method="post" action="/office/enter"><label for="number">Student or staff number</label><input id="number" name="number" autocomplete="username" required><label for="pin">PIN</label><input id="pin" name="pin" type="password" autocomplete="current-password" required><p><button>Sign in</button></p></form>`;

export function readerPages(office: OfficeRepository, now: () => number, signInGuard: SignInGuard): Router {
  const router = Router();
  router.use(cookieParser(), express.urlencoded({ extended: false, limit: '20kb' }));
  router.use(sameOrigin);
  const session = createCollegeSession(office, 'office', now, signInGuard);
  const reader = (req: Request, res: Response): SignedIn | null => {
    const who = session.account(req);
    if (who?.reader === true) return who;
    res
      .status(who === null ? 401 : 403)
      .send(
        shell(
          'Sign in',
          who,
          who === null
            ? signInForm()
            : '<h1>For readers</h1><p>This page is for those who mark. Your own work is under <a href="/office">your submissions</a>.</p>',
        ),
      );
    return null;
  };
  router.get('/', (req, res) => {
    const who = session.account(req);
    if (who === null) return void res.send(shell('Course office', null, signInForm()));
    res.send(shell('Course office', who, who.reader ? listForReaders(office, now()) : ownList(office, who, now())));
  });
  router.post('/enter', async (req, res) => {
    try {
      await session.signIn(req);
      res.redirect(303, '/office');
    } catch (error) {
      if (!(error instanceof FotoplanError)) throw error;
      res.status(error.code === 'TOO_MANY_TRIES' ? 429 : 403).send(shell('Sign in', null, signInForm(error.message)));
    }
  });
  router.post('/leave', (req, res) => {
    session.signOut(req);
    res.redirect(303, '/office');
  });
  router.get('/read/:id', (req, res) => {
    const who = session.account(req);
    const row = office.find(req.params.id, now());
    // a student sees of their own work what the reader sees
    const isAccepted = row?.state === 'accepted' || row?.state === 'withdrawn';
    if (row !== null && who !== null && (row.account_id === who.id || (who.reader && isAccepted)))
      return void res.send(shell(row.file_name, who, submissionPage(office, row.id, who.reader, now)));
    if (reader(req, res) !== null)
      res
        .status(404)
        .send(
          shell(
            'Not here',
            who,
            '<h1>Not here</h1><p>There is no such submission. <a href="/office">Back to the list</a></p>',
          ),
        );
  });
  router.post('/read/:id/notes', (req, res) => {
    if (reader(req, res) === null) return;
    const { page, text } = validated(NoteBody, { ...(req.body as object) });
    if (office.find(req.params.id, now()) === null)
      throw new FotoplanError('NOT_FOUND', 'There is no such submission.');
    office.addNote(req.params.id, page, text);
    res.redirect(303, `/office/read/${req.params.id}`);
  });
  return router;
}

function listForReaders(office: OfficeRepository, nowMs: number): string {
  const parts = office.assignments().map((assignment) => {
    const rows = office
      .accepted(assignment.id, nowMs)
      .map((row) => [
        `${escape(row.family)}, ${escape(row.first)}`,
        escape(row.number),
        `<a href="/office/read/${row.id}">${escape(row.file_name)}</a>`,
        String(row.pages),
        `${when(row.at_ms)}${row.late === 1 ? ' <span class="late">late</span>' : ''}`,
      ]);
    return `<h2>${escape(assignment.course)}: ${escape(assignment.title)}</h2>${table(['Name', 'Number', 'File', 'Pages', 'Handed in'], rows)}`;
  });
  return `<h1>Handed in</h1>${parts.join('')}`;
}

function ownList(office: OfficeRepository, who: SignedIn, nowMs: number): string {
  const rows = office
    .ofAccount(who.id, nowMs)
    .map((row) => [
      `<a href="/office/read/${row.id}">${escape(row.file_name)}</a>`,
      escape(row.receipt_number),
      when(row.at_ms),
      row.state === 'withdrawn' ? 'withdrawn' : 'received',
    ]);
  return `<h1>Your submissions</h1>${table(['File', 'Receipt', 'Handed in', 'State'], rows)}`;
}

function submissionPage(office: OfficeRepository, id: string, asReader: boolean, now: () => number): string {
  const row = office.find(id, now())!;
  const { notes } = office.receipt(row);
  const written = notes
    .map(({ page, text }) => `<p class="note">${page === 0 ? 'On the whole' : `Page ${page}`}: ${escape(text)}</p>`)
    .join('');
  const form = asReader
    ? `<h2 id="write">Write back</h2><form method="post" action="/office/read/${id}/notes"><label for="page">Page (0 for the whole)</label><input id="page" name="page" type="number" min="0" max="${row.pages}" value="0"><label for="text">Note</label><textarea id="text" name="text" rows="3" required maxlength="2000"></textarea><p><button>Send the note</button></p></form>`
    : '';
  return `<p><a href="/office">Back to the list</a></p><h1>${escape(row.file_name)}</h1>
<p>Receipt ${escape(row.receipt_number)}, attempt ${row.attempt}, ${row.pages} ${row.pages === 1 ? 'page' : 'pages'}, ${(row.bytes / 1000).toFixed(0)} KB, ${when(row.at_ms)}${row.late === 1 ? ', <span class="late">late</span>' : ''}${row.state === 'withdrawn' ? ', withdrawn' : ''}</p>
${row.comment === '' ? '' : `<p>Comment: ${escape(row.comment)}</p>`}${written}${asReader ? '<p class="to-form"><a href="#write">Write back</a></p>' : ''}
<div class="reading"><div id="pages" data-file="/office/api/submissions/${id}/file" role="region" aria-label="Pages"><p>Opening the pages …</p></div><aside>${form}</aside></div>
<script type="module" src="/office/showPages.js"></script>`;
}
