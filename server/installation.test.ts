import { openBlobs } from './blobs/openBlobs';
import { openCollege } from './college/openCollege';
import { installationProblem, type Installation } from './installation';
import { createOfficeRepository, type OfficeRepository } from './office/officeRepository';
import { seedOffice } from './office/seedOffice';
import { openData, type OpenData } from './openData';

const HASH = 'a'.repeat(64);
let data: OpenData;
let office: OfficeRepository;
beforeEach(() => {
  data = openData(null);
  office = createOfficeRepository(openCollege(null).office);
});
const problem = (asked: Partial<Installation> = {}): Promise<string | null> =>
  installationProblem({ data, office, blobs: openBlobs(data), demo: false, allowsMissingBytes: false, ...asked });
const addOwner = (): void =>
  void data.db.prepare("INSERT INTO owner (id, token_sha256, created_at_ms) VALUES ('owner-1', 'x', 1)").run();

describe('starting over data', () => {
  it('an empty folder becomes either', async () => {
    expect([await problem(), await problem({ demo: true })]).toEqual([null, null]);
  });

  it('a demo’s never becomes anything else, and the way out is said', async () => {
    seedOffice(office, 1);
    expect(await problem({ demo: true })).toBeNull();
    expect(await problem()).toMatch(/demo’s.*DEMO=1.*npm run account -- remove SP-20388 SP-20417 ST-0112/);
    for (const number of ['SP-20388', 'SP-20417', 'ST-0112']) office.removeAccount(number);
    expect(await problem()).toBeNull();
    expect(await office.signIn('office', 'ST-0112', '0112', 1)).toBeNull();
  });

  it('people’s work never becomes a demo', async () => {
    addOwner();
    expect(await problem()).toBeNull();
    expect(await problem({ demo: true })).toMatch(/people’s work.*DATA_DIR/);
  });

  it('bytes of another installation, or none, are refused unless it is wanted', async () => {
    await openBlobs(data).put(HASH, Buffer.from('a photo'), 1);
    expect(await problem()).toBeNull();
    const other = openData(null);
    expect(await problem({ data: other, blobs: openBlobs(other) })).toBeNull();
    const mixed = { db: data.db, bytesFile: other.bytesFile };
    expect(await problem({ data: mixed, blobs: openBlobs(mixed) })).toMatch(/two installations.*npm run restore/);
    const lost = { db: data.db, bytesFile: openData(null).bytesFile };
    expect(await problem({ data: lost, blobs: openBlobs(lost) })).toMatch(
      /1 of 1 photos and files.*bytes are not there.*npm run restore/,
    );
    expect(await problem({ data: lost, blobs: openBlobs(lost), allowsMissingBytes: true })).toBeNull();
  });
});
