/** How a report looks: on a wide screen, on a phone, in the dark, on paper. */
export const style = `
:root { color-scheme: light dark; --paper: #fbf8f1; --card: #ffffff; --ink: #2b2333; --dim: #655a70; --line: #d9d0c3; --good: #2c6b4f; --bad: #a32f27; --open: #8a5d10; }
@media (prefers-color-scheme: dark) { :root { --paper: #1d1924; --card: #282231; --ink: #ece6f2; --dim: #aca2b8; --line: #463d52; --good: #7fc7a3; --bad: #f0938b; --open: #e3b768; } }
* { box-sizing: border-box; }
body { margin: 0 auto; max-width: 1120px; padding: 1rem 1.25rem 3rem; background: var(--paper); color: var(--ink); font: 16px/1.5 system-ui, sans-serif; }
h1 { font-size: 1.9rem; margin: 0.5rem 0 0; line-height: 1.2; overflow-wrap: anywhere; }
h2 { font-size: 1.3rem; margin: 2.2rem 0 0.6rem; }
h3 { font-size: 1.05rem; margin: 0.2rem 0; }
p { margin: 0.4rem 0; max-width: 75ch; }
.dim, caption, figcaption { color: var(--dim); }
.skip { position: absolute; left: -99rem; }
.skip:focus { left: 1rem; }
ul.cards, ul.players, ul.legend { list-style: none; margin: 0.5rem 0; padding: 0; display: flex; flex-wrap: wrap; gap: 0.75rem; }
ul.cards li, ul.players li { background: var(--card); border: 1px solid var(--line); border-radius: 10px; padding: 0.7rem 0.9rem; flex: 1 1 13rem; }
ul.cards b { font-size: 1.3rem; display: block; }
.good b, td.met { color: var(--good); }
.bad b, td.missed { color: var(--bad); }
td.not-yet-clear { color: var(--open); }
ul.players li { position: relative; overflow: hidden; padding-top: 1rem; flex: 1 1 17rem; }
.stripe { position: absolute; top: 0; left: 0; width: 100%; height: 5px; }
dl { margin: 0.5rem 0 0; }
dl div { display: flex; justify-content: space-between; gap: 1rem; border-top: 1px solid var(--line); }
dt { color: var(--dim); }
dd { margin: 0; font-variant-numeric: tabular-nums; }
ul.legend { gap: 0.3rem 1.2rem; font-size: 0.9rem; }
.swatch { display: inline-block; width: 0.85rem; height: 0.85rem; margin-right: 0.4rem; vertical-align: -0.1rem; }
figure { margin: 0; background: var(--card); border: 1px solid var(--line); border-radius: 10px; padding: 1rem; }
figcaption { margin-top: 0.6rem; max-width: 75ch; }
.picture { overflow-x: auto; }
.picture svg { display: block; width: 100%; min-width: 560px; max-width: 1000px; height: auto; }
.picture.flow svg { width: 100%; min-width: 760px; border-radius: 6px; }
.wide { overflow-x: auto; }
table { border-collapse: collapse; margin: 0.6rem 0; font-size: 0.92rem; }
caption { text-align: left; padding-bottom: 0.3rem; }
th, td { text-align: left; padding: 0.28rem 0.8rem 0.28rem 0; border-bottom: 1px solid var(--line); vertical-align: top; }
tbody th { font-weight: 500; }
.figure { text-align: right; font-variant-numeric: tabular-nums; white-space: nowrap; }
td.met, td.missed, td.not-yet-clear { white-space: nowrap; font-weight: 600; }
details { margin: 0.6rem 0; }
summary { cursor: pointer; }
.stories { display: grid; grid-template-columns: repeat(auto-fit, minmax(min(21rem, 100%), 1fr)); gap: 1.2rem; align-items: start; }
.stories table { width: 100%; font-size: 0.86rem; }
ul.tests { list-style: none; padding: 0; columns: 2; }
ul.tests .bad { color: var(--bad); font-weight: 600; }
ul.observations li, ul.findings li { margin: 0.4rem 0; max-width: 80ch; }
li.error b { color: var(--bad); }
li.warning b { color: var(--open); }
code { font-size: 0.88em; overflow-wrap: anywhere; }
footer { border-top: 1px solid var(--line); margin-top: 3rem; font-size: 0.9rem; color: var(--dim); }
@media print {
  :root { --paper: #fff; --card: #fff; --ink: #000; --dim: #444; --line: #bbb; }
  body { max-width: none; font-size: 11pt; }
  figure, ul.players li, ul.cards li { break-inside: avoid; }
  h2 { break-after: avoid; }
  .skip { display: none; }
}
`;
