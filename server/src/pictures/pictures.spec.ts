import { pictureSchema } from '@jentrix/core/api';
import { type Job, createJob } from '@jentrix/core/job';
import { Resvg } from '@resvg/resvg-js';
import { unzipSync } from 'fflate';
import type { Express } from 'express';
import request from 'supertest';
import { binary, testApp } from '../testing';

const svg = (inside: string): Buffer => Buffer.from(`<svg xmlns="http://www.w3.org/2000/svg" width="40" height="20">${inside}</svg>`);
const png = (): Buffer => Buffer.from(new Resvg(svg('<rect width="40" height="20" fill="#d04020"/>')).render().asPng());

describe('pictures', () => {
  let app: Express;
  let end: () => Promise<void>;
  beforeAll(async () => ({ app, end } = await testApp()));
  afterAll(() => end());
  const post = (bytes: Buffer) => request(app).post('/api/pictures').set('content-type', 'application/octet-stream').send(bytes);
  const jobWith = async (pictureId: string): Promise<{ id: string; job: Job }> => {
    let n = 0;
    const job = createJob('With a picture', () => `p${n++}`);
    const sheet = job.sheets[0];
    if (sheet) {
      sheet.background = { kind: 'picture', pictureId, fit: 'cover', colour: '#000000' };
      sheet.blocks = [];
      job.sheets.push({ ...sheet, id: 'second', name: 'Second', background: { kind: 'gradient', from: '#ff0000', to: '#0000ff', angleDeg: 90 } });
    }
    const { id } = (await request(app).post('/api/jobs').send({ job }).expect(201)).body as { id: string };
    return { id, job };
  };

  it('keeps a picture once and serves it harmlessly', async () => {
    const kept = pictureSchema.parse((await post(png()).expect(201)).body);
    expect(kept).toEqual(jasmine.objectContaining({ type: 'image/png', width: 40, height: 20 }));
    expect(pictureSchema.parse((await post(png()).expect(201)).body).id).toBe(kept.id);
    const served = await request(app).get(`/api/pictures/${kept.id}`).expect(200).expect('content-type', 'image/png');
    expect(String(served.headers['content-security-policy'])).toContain('sandbox');
    expect(served.headers['x-content-type-options']).toBe('nosniff');
    await request(app).get('/api/pictures/none').expect(404);
  });

  it('makes SVG safe', async () => {
    const hostile = svg(
      '<script>alert(1)</script><rect width="9" height="9" fill="#00ff00" onclick="alert(1)"/><image href="http://evil.example/x.png" width="5" height="5"/><foreignObject><iframe src="x"/></foreignObject>',
    );
    const { id } = pictureSchema.parse((await post(hostile).expect(201)).body);
    const text = (await request(app).get(`/api/pictures/${id}`).buffer(true).parse(binary)).body as Buffer;
    expect(text.toString()).toContain('#00ff00');
    expect(text.toString()).not.toMatch(/script|onclick|evil|iframe|foreignObject/i);
  });

  it('refuses what is no picture, is damaged or too large', async () => {
    const detail = async (bytes: Buffer) => ((await post(bytes).expect(422)).body as { detail: string }).detail;
    expect(await detail(Buffer.from('hello'))).toContain('not a PNG');
    expect(await detail(Buffer.from('GIF89a\u0001\u0000\u0001\u0000'))).toMatch(/gif|not a PNG/);
    expect(await detail(Buffer.from('<svg xmlns="http://www.w3.org/2000/svg" width="10" height="10"><rect'))).toMatch(/can’t be read|not a PNG/);
    expect(await detail(Buffer.from('<svg xmlns="http://www.w3.org/2000/svg" width="90000" height="90000"/>'))).toContain('million');
    await post(Buffer.alloc(13 * 1024 * 1024)).expect(413);
  });

  it('is in the exports, and all sheets come as one ZIP', async () => {
    const { id: pictureId } = pictureSchema.parse((await post(png())).body);
    const { id, job } = await jobWith(pictureId);
    const text = (await request(app).get(`/api/jobs/${id}/sheets/${job.sheets[0]?.id}/svg`).buffer(true).parse(binary)).body as Buffer;
    expect(text.toString()).toContain('xMidYMid slice');
    expect(text.toString()).toContain('data:image/png;base64,');
    const zip = unzipSync(new Uint8Array((await request(app).get(`/api/jobs/${id}/sheets.zip?format=png&scale=1`).buffer(true).parse(binary)).body as Buffer));
    expect(Object.keys(zip)).toEqual(['01-sheet-1@1x.png', '02-second@1x.png']);
    const svgs = unzipSync(new Uint8Array((await request(app).get(`/api/jobs/${id}/sheets.zip?format=svg`).buffer(true).parse(binary)).body as Buffer));
    expect(new TextDecoder().decode(svgs['02-second.svg'])).toContain('linearGradient');
    await request(app).get(`/api/jobs/${id}/sheets.zip?scale=9`).expect(422);
  });
});
