import { keepPlace, recallPlace } from './place';

describe('the place in a document', () => {
  afterEach(() => sessionStorage.clear());

  it('is kept piece by piece, for each document by itself', () => {
    keepPlace('guide', { scroll: 120 });
    keepPlace('guide', { folded: true });
    expect(recallPlace('guide')).toEqual({
      scroll: 120,
      selection: null,
      range: null,
      folded: true,
      log: false,
    });
    expect(recallPlace('rota').scroll).toBe(0);
  });

  it('is the beginning when what was kept is damaged', () => {
    sessionStorage.setItem('oxbow-desk-guide', '{');
    expect(recallPlace('guide').scroll).toBe(0);
  });
});
