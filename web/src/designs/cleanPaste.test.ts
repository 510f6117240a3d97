// @vitest-environment jsdom
import { describe, expect, it } from "vitest";
import { cleanPaste } from "./cleanPaste";

describe("pasted text", () => {
  it.each([
    [
      "keeps bold that is said by style",
      '<p><span style="font-weight:700">Dear</span> Ana</p>',
      "<p><span><strong>Dear</strong></span> Ana</p>",
    ],
    ["loses a bold that is none", '<b style="font-weight:normal"><p>Dear</p></b>', "<p>Dear</p>"],
    [
      "loses classes, comments and style sheets",
      '<!-- x --><style>p{color:red}</style><p class="a" onclick="x()">Dear<!--[if gte mso 9]><xml>y</xml><![endif]--></p>',
      "<p>Dear</p>",
    ],
    ["loses scripts, pictures and forms", '<script>alert(1)</script><p>a<img src="x" onerror="alert(1)"><input value="y"></p>', "<p>a</p>"],
    [
      "keeps links that lead somewhere, and no others",
      '<a href="https://example.org" target="_blank">a</a><a href="javascript:alert(1)">b</a>',
      '<a href="https://example.org">a</a><a>b</a>',
    ],
    [
      "keeps merged cells and alignment",
      '<table><tbody><tr><td colspan="2" style="text-align:right;color:red">x</td></tr></tbody></table>',
      '<table><tbody><tr><td colspan="2" style="text-align: right;">x</td></tr></tbody></table>',
    ],
    [
      "keeps italics, underline, strike and raised text",
      '<p><span style="font-style:italic">a</span><span style="text-decoration:underline">b</span><span style="text-decoration:line-through">c</span><span style="vertical-align:super">d</span></p>',
      "<p><span><em>a</em></span><span><u>b</u></span><span><s>c</s></span><span><sup>d</sup></span></p>",
    ],
    ["turns hard spaces into spaces", "<p>a\u00a0b</p>", "<p>a b</p>"],
  ])("%s", (_, html, clean) => expect(cleanPaste(html)).toBe(clean));

  it("turns paragraphs that are drawn as a list into one", () => {
    const item = (marker: string, text: string) =>
      `<p style="mso-list:l0 level1 lfo1"><span style="mso-list:Ignore">${marker}</span>${text}</p>`;
    expect(cleanPaste(item("1.", "one") + item("2.", "two") + "<p>after</p>")).toBe(
      "<ol><li><p>one</p></li><li><p>two</p></li></ol><p>after</p>",
    );
    expect(cleanPaste(item("·", "one"))).toBe("<ul><li><p>one</p></li></ul>");
  });

  it("is left whole where it was copied here", () => {
    const own = '<p data-pm-slice="1 1 []" class="kept">Dear</p>';
    expect(cleanPaste(own)).toBe(own);
  });
});
