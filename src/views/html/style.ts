/** The page's style sheet. Colour never carries the meaning alone: a word or a sign goes with it. */
export const STYLE = `
:root{color-scheme:light dark;--page:#fbfaf7;--card:#fff;--ink:#22252b;--dim:#5b6270;--line:#d9d6cd;--bad:#a8201a;--warn:#8a5a00;--good:#1f6f43;--accent:#1d5c8f;--bar:#7ea6c4;--need:#a8201a}
@media (prefers-color-scheme:dark){:root{--page:#171a20;--card:#1f232b;--ink:#e4e6ea;--dim:#9aa3b2;--line:#363c48;--bad:#ff8f85;--warn:#e8b04b;--good:#7fd6a0;--accent:#8ec3ec;--bar:#4d7da3;--need:#ff8f85}}
*{box-sizing:border-box}
body{margin:0;background:var(--page);color:var(--ink);font:16px/1.5 system-ui,sans-serif}
main,header,footer{max-width:70rem;margin:0 auto;padding:0 1.25rem}
header{padding-top:2rem}
h1{font-size:1.6rem;margin:0 0 .25rem}
h2{font-size:1.25rem;margin:2.5rem 0 .75rem;border-bottom:1px solid var(--line);padding-bottom:.25rem}
h3{font-size:1.05rem;margin:1.5rem 0 .5rem}
p{margin:.4rem 0}
.dim{color:var(--dim)}
.error{color:var(--bad)}.warning{color:var(--warn)}.note{color:var(--dim)}.good{color:var(--good)}
nav ul{list-style:none;display:flex;flex-wrap:wrap;gap:.25rem 1.25rem;padding:0;margin:.75rem 0}
a{color:var(--accent)}
a:focus-visible,select:focus-visible,summary:focus-visible,button:focus-visible,.scroll:focus-visible{outline:3px solid var(--accent);outline-offset:2px}
.skip{position:absolute;left:-99rem}.skip:focus{left:1rem;top:1rem;background:var(--card);padding:.5rem}
.scroll{overflow-x:auto}
table{border-collapse:collapse;width:100%;background:var(--card);font-size:.95rem}
th,td{border:1px solid var(--line);padding:.4rem .6rem;text-align:left;vertical-align:top}
thead th{background:var(--page)}
td.number{text-align:right;font-variant-numeric:tabular-nums}
td code{overflow-wrap:normal}
.counts span{white-space:nowrap}
article{background:var(--card);border:1px solid var(--line);border-left-width:.35rem;border-radius:.25rem;padding:.6rem .9rem;margin:.6rem 0}
article.is-error{border-left-color:var(--bad)}article.is-warning{border-left-color:var(--warn)}article.is-note{border-left-color:var(--dim)}
article,p,li{overflow-wrap:anywhere}
article h4{margin:0;font-size:1rem;font-weight:600}
article ul{list-style:none;padding:0;margin:.25rem 0;display:flex;flex-wrap:wrap;gap:0 1rem}
code{font:.875rem/1.4 ui-monospace,"DejaVu Sans Mono",monospace;overflow-wrap:anywhere}
form{display:none;flex-wrap:wrap;gap:.75rem 1rem;align-items:end;margin:.75rem 0}
.js form{display:flex}
label{display:grid;font-size:.85rem;color:var(--dim);gap:.15rem}
select,button{font:inherit;color:inherit;background:var(--card);border:1px solid var(--line);border-radius:.25rem;padding:.3rem .5rem}
svg{max-width:100%;height:auto;display:block}
svg text{fill:var(--ink);font:13px system-ui,sans-serif}
svg .soft{fill:var(--dim)}svg .bar{fill:var(--bar)}svg .need{stroke:var(--need);stroke-width:3}
svg .low{fill:var(--need)}
svg .box{fill:var(--card);stroke:var(--line);stroke-width:1.5}svg .box.wrong{stroke:var(--bad);stroke-width:2.5}
svg .edge{stroke:var(--dim);stroke-width:1.5;fill:none}svg .edge.needs{stroke-dasharray:5 4}svg marker path{fill:var(--dim)}
[hidden]{display:none!important}
footer{padding:2rem 1.25rem;color:var(--dim);font-size:.9rem}
@media print{body{background:#fff;color:#000}form,nav,.skip{display:none!important}article,table,svg{break-inside:avoid}details{display:block}a{color:inherit}}
@media (max-width:40rem){h1{font-size:1.35rem}th,td{padding:.3rem .4rem}}
`.trim();

/** Filters the findings; without it all of them are shown. */
export const SCRIPT = `
(() => {
  document.documentElement.classList.add("js");
  const form = document.getElementById("filter");
  const count = document.getElementById("count");
  const items = [...document.querySelectorAll("article[data-app]")];
  const apply = () => {
    const wanted = Object.fromEntries([...form.querySelectorAll("select")].map((select) => [select.name, select.value]));
    let shown = 0;
    for (const item of items) {
      const fits = Object.entries(wanted).every(([name, value]) => value === "" || item.dataset[name] === value);
      item.hidden = !fits;
      if (fits) shown++;
    }
    for (const group of document.querySelectorAll("section[data-group]")) group.hidden = !group.querySelector("article:not([hidden])");
    count.textContent = shown + " of " + items.length + " shown";
  };
  form.addEventListener("change", apply);
  form.addEventListener("reset", () => setTimeout(apply));
  apply();
})();
`.trim();
