import { Invalid, check, prepare } from './check.js';
import { EditsMessage } from './live.js';
import { openApi } from './openapi.js';
import { paramsOf } from './params.js';
import { preparing } from './preparing.js';
import { Credentials, DocumentInput } from './shapes.js';

function fields(run: () => unknown): string[] {
  try {
    run();
    return [];
  } catch (error) {
    if (error instanceof Invalid) return error.errors.map((one) => one.path);
    throw error;
  }
}

describe('the contract', () => {
  it('names the field that is missing, unknown or of the wrong type', () => {
    expect(fields(() => check(Credentials, { email: 'ines@withy.example', password: 'tidemill' }))).toEqual(
      [],
    );
    expect(fields(() => check(Credentials, { email: 'ines@withy.example' }))).toEqual(['password']);
    expect(
      fields(() => check(Credentials, { email: 'ines@withy.example', password: 'x', admin: true })),
    ).toEqual(['admin']);
    expect(fields(() => check(DocumentInput, { title: 7, kind: 'text' }))).toEqual(['title']);
    expect(fields(() => check(DocumentInput, { title: '  ', kind: 'text' }))).toEqual(['title']);
  });

  it('names the place inside a step', () => {
    const edit = (step: object): object => ({
      document: 'd',
      client: 'client',
      base: 0,
      edits: [{ counter: 0, writtenAt: 0, sources: [], cause: { kind: 'writing' }, steps: [step] }],
    });
    expect(fields(() => check(EditsMessage, edit({ stepType: 'replace', from: 1, to: 1 })))).toEqual([]);
    expect(fields(() => check(EditsMessage, edit({ stepType: 'replace', from: -1, to: 1 })))).toContain(
      'edits/0/steps/0/from',
    );
    expect(
      fields(() => check(EditsMessage, edit({ stepType: 'attr', pos: 1, attr: 'align', value: {} })))[0],
    ).toMatch(/^edits\/0\/steps\/0/);
  });

  it('describes every call with its parameters and answers', () => {
    const { paths } = openApi('1') as {
      paths: Record<string, Record<string, { parameters: { name: string }[]; responses: object }>>;
    };
    expect(paths['/api/documents/{document}/compare']?.['get']?.parameters.map((one) => one.name)).toEqual([
      'document',
      'earlier',
      'later',
      'with',
      'format',
    ]);
    expect(Object.keys(paths).length).toBeGreaterThan(15);
  });

  it('is made ready schema by schema, after which no message waits for its own', () => {
    const parts = [...preparing()];
    expect(parts.length).toBeGreaterThan(80);
    const begun = prepare(EditsMessage, false);
    expect(prepare(EditsMessage, false)).toBe(begun);
    expect(paramsOf('/api/documents/:document')).toBe(paramsOf('/api/documents/:document'));
  });
});
