import { cleaned } from './pasting';

describe('pasting', () => {
  it('takes what another program means, and leaves what was copied on a desk', () => {
    expect(
      cleaned('<b style="font-weight:normal"><p>so <span style="font-weight:700">bold</span></p></b>'),
    ).toBe('<p>so <strong>bold</strong></p>');
    expect(cleaned('<p onclick="x()">a<script>alert(1)</script></p>')).toBe('<p>a</p>');
    const own = '<p data-pm-slice="1 1 []">a <span class="face-mono">b</span></p>';
    expect(cleaned(own)).toBe(own);
  });
});
