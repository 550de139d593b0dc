import { goneOn } from './index.js';

describe('filling cells', () => {
  it('goes on by the step that numbers differ by, and else repeats', () => {
    expect(goneOn(['1', '2'], 3, 'down')).toEqual(['3', '4', '5']);
    expect(goneOn(['10', '7.5'], 3, 'right')).toEqual(['5', '2.5', '0']);
    expect(goneOn(['0.1', '0.2'], 2, 'down')).toEqual(['0.3', '0.4']);
    expect(goneOn(['5'], 2, 'down')).toEqual(['5', '5']);
    expect(goneOn(['1', '2', '4'], 4, 'down')).toEqual(['1', '2', '4', '1']);
    expect(goneOn(['flour', ''], 3, 'down')).toEqual(['flour', '', 'flour']);
  });

  it('counts words on', () => {
    expect(goneOn(['Week 9'], 2, 'down')).toEqual(['Week 10', 'Week 11']);
    expect(goneOn(['Q1', 'Q3'], 2, 'right')).toEqual(['Q5', 'Q7']);
    expect(goneOn(['Berth 08'], 3, 'down')).toEqual(['Berth 09', 'Berth 10', 'Berth 11']);
    expect(goneOn(['Berth 1', 'Pier 2'], 2, 'down')).toEqual(['Berth 1', 'Pier 2']);
  });

  it('has formulas refer to what lies as far on as they do', () => {
    expect(goneOn(['=A1*$B$1'], 2, 'down')).toEqual(['=A2*$B$1', '=A3*$B$1']);
    expect(goneOn(['=A1', '=A2'], 3, 'down')).toEqual(['=A3', '=A4', '=A5']);
    expect(goneOn(['=SUM(A1:A9)'], 1, 'right')).toEqual(['=SUM(B1:B9)']);
  });
});
