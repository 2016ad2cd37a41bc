import { strFromU8, strToU8, unzipSync, zipSync } from 'fflate';
import { type Job, type Recipe, createJob, readJob, renameUses, settingsOf, usesOf } from '../job';
import { type PullArchive, takeApart } from '../pulls';
import { type FoundFace, PackageError, type PackSources, openPackage, packJob, toldOfLeft, writePackage } from '.';

const PICTURE = strToU8('<svg xmlns="http://www.w3.org/2000/svg"/>');
const FONT = new Uint8Array([0, 1, 0, 0, 7, 7, 7]);

function sampleJob(faceId = 'one-face'): Job {
  let n = 0;
  const job = createJob('Harbour nights', () => `i${n++}`);
  const [sheet] = job.sheets;
  const [block] = sheet!.blocks;
  Object.assign(block!, { words: 'Tide', recipeId: 'r1', style: { ...block!.style, faceId } });
  Object.assign(block!, { runs: [{ start: 0, end: 2, style: { faceId: 'other-face' } }] });
  Object.assign(sheet!, { background: { kind: 'picture', pictureId: 'p1', fit: 'cover', colour: '#ffffff' } });
  return readJob(JSON.parse(JSON.stringify(job)));
}

const recipe = (job: Job): Recipe => ({ id: 'r1', name: 'Headline', settings: settingsOf(job.sheets[0]!.blocks[0]!) });

function sources(job: Job, faces: Readonly<Record<string, Partial<FoundFace>>>): PackSources {
  const found = (id: string): FoundFace | undefined =>
    faces[id] && { family: 'Any', style: 'Plain', bytes: FONT, licence: 'Free.', installable: true, ...faces[id] };
  return {
    face: (id) => Promise.resolve(found(id)),
    picture: (id) => Promise.resolve(id === 'p1' ? { type: 'image/svg+xml', bytes: PICTURE } : undefined),
    recipe: (id) => Promise.resolve(id === 'r1' ? recipe(job) : undefined),
  };
}

describe('packages', () => {
  const job = sampleJob();
  const both = sources(job, { 'one-face': {}, 'other-face': { installable: false, family: 'Closed' } });

  it('hold the job with all it rests on, and give it back', async () => {
    const zip = await packJob(job, undefined, both);
    const { job: again, kept, faces, pictures, recipes, left, title } = openPackage(zip);
    expect([again, kept, title]).toEqual([job, undefined, 'Harbour nights']);
    expect(faces).toEqual([{ id: 'one-face', family: 'Any', style: 'Plain', bytes: FONT, licence: 'Free.' }]);
    expect(pictures).toEqual([{ id: 'p1', type: 'image/svg+xml', bytes: PICTURE }]);
    expect(recipes).toEqual([recipe(job)]);
    expect(toldOfLeft(left)).toEqual(['The face “Closed Plain” is not in the package. Its licence does not allow sharing.']);
    expect(Object.keys(unzipSync(zip)).sort()).toEqual([
      'faces/1-Any-Plain.ttf',
      'job.jentrix.json',
      'licences/1.txt',
      'manifest.json',
      'pictures/1-p1.svg',
      'recipes.json',
    ]);
    expect(await packJob(job, undefined, both)).toEqual(zip);
  });

  it('hold pulls, and what only these name', async () => {
    const before = sampleJob('older-face');
    const { root, pieces } = takeApart(before, (text) => String(text.length) + text.slice(0, 20));
    const kept: PullArchive = {
      pulls: [{ name: 'first', reason: 'hand', createdAt: '2026-01-02T03:04:05.000Z', root, parts: [...pieces.keys()] }],
      pieces: Object.fromEntries(pieces),
    };
    const opened = openPackage(await packJob(job, kept, sources(job, { 'one-face': {}, 'other-face': {}, 'older-face': {} })));
    expect(opened.kept).toEqual(kept);
    expect(opened.faces.map(({ id }) => id).sort()).toEqual(['older-face', 'one-face', 'other-face']);
  });

  it('tell of every damage: a byte that changed, a file too many or too few, another kind of file', async () => {
    const zip = await packJob(job, undefined, both);
    const files = unzipSync(zip);
    const refused = (changed: Record<string, Uint8Array>): string => {
      try {
        openPackage(zipSync(changed));
        return '';
      } catch (error) {
        expect(error).toBeInstanceOf(PackageError);
        return error instanceof Error ? error.message : '';
      }
    };
    expect(refused(files)).toBe('');
    for (const path of Object.keys(files)) {
      if (path === 'manifest.json') continue;
      const spoilt = Uint8Array.from(files[path]!);
      spoilt[spoilt.length >> 1]! ^= 1;
      expect(refused({ ...files, [path]: spoilt }))
        .withContext(path)
        .toContain('damaged');
      const { [path]: _gone, ...others } = files;
      expect(refused(others)).withContext(path).toContain('missing');
    }
    expect(refused({ ...files, 'faces/more.ttf': FONT })).toContain('does not belong');
    const manifest = strFromU8(files['manifest.json']!);
    expect(refused({ ...files, 'manifest.json': strToU8(manifest.replaceAll('faces/1', 'faces/../../1')) })).toContain('damaged');
    expect(refused({ ...files, 'manifest.json': strToU8(manifest.replace('"version": 1', '"version": 9')) })).toContain('newer');
    expect(refused({ 'a.txt': FONT })).toContain('no manifest');
    for (const bytes of [new Uint8Array(0), FONT, zip.subarray(0, zip.length - 30), zip.subarray(40)])
      expect(() => openPackage(bytes)).toThrowError(PackageError);
  });

  it('whose sizes lie unpack to no more than they say', () => {
    const bomb = zipSync({ 'manifest.json': new Uint8Array(20_000_000) });
    expect(() => openPackage(bomb)).toThrowError(PackageError);
    const claims = (size: number): Uint8Array => {
      const lie = Uint8Array.from(bomb);
      const view = new DataView(lie.buffer);
      // The size unpacked, in the directory at the end of the file (APPNOTE 4.3.12).
      for (let at = 0; at < lie.length - 4; at++) if (view.getUint32(at, true) === 0x02014b50) view.setUint32(at + 24, size, true);
      return lie;
    };
    expect(() => openPackage(claims(100))).toThrowError(PackageError);
    expect(() => openPackage(claims(0x7fffffff))).toThrowError(PackageError, /unpacks to more/);
  });

  it('are not written where they could not be read: a job that is too large, names without end', async () => {
    const contents = { title: 'T', recipes: [], faces: [], pictures: [], left: [] };
    expect(() => writePackage({ ...contents, job: ' '.repeat(8_000_001) })).toThrowError(PackageError, /Delete some pulls/);
    const many = Array.from({ length: 501 }, (_, i) => ({ id: `p${i}`, type: 'image/png', bytes: FONT }));
    expect(() => writePackage({ ...contents, job: '{}', pictures: many })).toThrowError(PackageError, /more things/);
    const odd = sources(job, { 'one-face': { family: '𝔄'.repeat(40), style: '𝔅/../' }, 'other-face': {} });
    expect(openPackage(await packJob(job, undefined, odd)).faces.length).toBe(2);
  });

  it('a job that names other things names them everywhere', () => {
    const renamed = renameUses(job, ({ kind, id }) => (kind === 'recipe' ? null : `new-${id}`));
    expect(usesOf(renamed).map(({ id }) => id)).toEqual(['new-one-face', 'new-other-face', 'new-p1']);
    expect(renameUses(job, ({ id }) => id)).toEqual(job);
  });
});
