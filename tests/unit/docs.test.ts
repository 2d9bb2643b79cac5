import { existsSync, readdirSync, readFileSync } from 'node:fs';
import { join } from 'node:path';
import { Validator } from '@seriousme/openapi-schema-validator';
import { Ajv2020 } from 'ajv/dist/2020.js';
import { describe, expect, it } from 'vitest';
import { readBook } from '../../demo/bots';
import { bookJson } from '../../src/core/phrases/bookfile';
import { ERRORS } from '../../src/core/errors';
import { MEASURES } from '../../src/core/measures/definitions';

/** Tables are aligned by the formatter; what they say is what counts. */
const api = readFileSync('docs/api.md', 'utf8').replace(/ {2,}/g, ' ');
const openapi = JSON.parse(readFileSync('docs/openapi.json', 'utf8')) as {
  paths: Record<string, Record<string, unknown>>;
  components: { schemas: { Error: { properties: { error: { properties: { code: { enum: string[] } } } } } } };
};

/** Every route of the public interface as `METHOD /path`, from the files that serve it. */
function routes(folder: string, path: string): string[] {
  return readdirSync(folder, { withFileTypes: true }).flatMap((entry) => {
    const at = join(folder, entry.name);
    if (entry.isDirectory()) return routes(at, `${path}/${entry.name.replace(/^\[(.+)\]$/, '{$1}')}`);
    return [...readFileSync(at, 'utf8').matchAll(/export const (GET|POST|PUT|DELETE|PATCH)\b/g)].map(
      (m) => `${m[1]} ${path}`,
    );
  });
}

describe('what is written about the interface for channels', () => {
  it('is valid OpenAPI 3.1', async () => {
    const result = await new Validator().validate(structuredClone(openapi) as Record<string, unknown>);
    expect(result.errors ?? []).toEqual([]);
    expect(result.valid).toBe(true);
  });
  it('names exactly the routes there are', () => {
    const written = Object.entries(openapi.paths).flatMap(([path, methods]) =>
      Object.keys(methods).map((m) => `${m.toUpperCase()} ${path}`),
    );
    expect(written.sort()).toEqual(routes('src/app/api/v1', '/api/v1').sort());
    for (const route of written) expect(api).toContain(`\`${route.replace(' /api', ' /api')}`);
  });
  it('gives the codes their status', () => {
    for (const code of openapi.components.schemas.Error.properties.error.properties.code.enum) {
      expect(ERRORS).toHaveProperty(code);
      expect(api).toContain(`| \`${code}\` | ${ERRORS[code as keyof typeof ERRORS].status} |`);
    }
  });
});

describe('the README', () => {
  it('links every picture, and every picture it links is there', () => {
    const readme = readFileSync('README.md', 'utf8');
    const linked = [...readme.matchAll(/docs\/screenshots\/([a-z]+\.png)/g)].map((m) => m[1]);
    expect([...new Set(linked)].sort()).toEqual(readdirSync('docs/screenshots').sort());
    for (const [, file] of readme.matchAll(/\]\((docs\/[^)#]+)\)/g)) expect(existsSync(file ?? ''), file).toBe(true);
  });
});

describe('measures', () => {
  it('each has an id of its own, a name and a formula in words', () => {
    expect(new Set(MEASURES.map((m) => m.id)).size).toBe(MEASURES.length);
    for (const m of MEASURES) expect(m.formula.length).toBeGreaterThan(20);
  });
});

describe('the published formats', () => {
  const schema = (name: string) =>
    new Ajv2020({ strict: false, formats: { uri: true } }).compile(
      JSON.parse(readFileSync(`docs/formats/${name}.schema.json`, 'utf8')) as object,
    );
  it.each(readdirSync('demo/files/bots'))('the demo’s %s is of the published format of bots', (file) => {
    const valid = schema('bot');
    expect(valid(JSON.parse(readFileSync(join('demo/files/bots', file), 'utf8'))) ? [] : valid.errors).toEqual([]);
  });
  it('a bot with something unknown is not', () => {
    const bot = JSON.parse(readFileSync('demo/files/bots/evening-desk.json', 'utf8')) as {
      script: { scenes: { steps: object[] }[] };
    };
    bot.script.scenes[0]?.steps.push({ id: 'x', verb: 'dance' });
    expect(schema('bot')(bot)).toBe(false);
  });
  it('the phrasebook as it is taken out is of its published format', () => {
    const valid = schema('phrasebook');
    expect(valid(JSON.parse(bookJson(readBook()))) ? [] : valid.errors).toEqual([]);
  });
});
