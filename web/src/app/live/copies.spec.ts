import { TestBed } from '@angular/core/testing';
import { provideZonelessChangeDetection } from '@angular/core';
import { summaryOf } from '../documents/testing';
import { Copies } from './copies';

describe('copies of documents on the device', () => {
  let copies: Copies;
  const person = `somebody ${Date.now()}`;
  const copy = (document: string, at: number, who = person) => ({
    person: who,
    document,
    seq: at,
    content: { type: 'doc' },
    about: summaryOf(document),
    at,
  });

  beforeEach(() => {
    TestBed.configureTestingModule({ providers: [provideZonelessChangeDetection()] });
    copies = TestBed.inject(Copies);
  });
  afterEach(() => copies.dropAll(person));

  it('are found again, the last one first, and only by whom they are of', async () => {
    await copies.keep(copy('guide', 1));
    await copies.keep(copy('rota', 2));
    await copies.keep(copy('guide', 3));
    expect((await copies.all(person)).map(({ document, seq }) => [document, seq])).toEqual([
      ['guide', 3],
      ['rota', 2],
    ]);
    expect((await copies.of(person, 'rota'))?.seq).toBe(2);
    expect([await copies.of(person, 'minutes'), await copies.all(`${person} else`)]).toEqual([null, []]);
    await copies.drop(person, 'guide');
    expect((await copies.all(person)).map(({ document }) => document)).toEqual(['rota']);
  });

  it('are thirty at most', async () => {
    for (let i = 0; i < 32; i++) await copies.keep(copy(`document ${i}`, i));
    const kept = await copies.all(person);
    expect([kept.length, kept[0]?.document, kept.at(-1)?.document]).toEqual([
      30,
      'document 31',
      'document 2',
    ]);
  });
});
