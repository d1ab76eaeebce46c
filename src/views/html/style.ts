/** The page's style sheet. Colour never carries the meaning alone: a word or a sign goes with it. */
export const STYLE = `
:root{color-scheme:light dark;--page:#fbfaf7;--card:#fff;--ink:#22252b;--dim:#5b6270;--line:#d9d6cd;--bad:#a8201a;--warn:#8a5a00;--good:#1f6f43;--accent:#1d5c8f;--bar:#7ea6c4;--track:#eceae3}
@media (prefers-color-scheme:dark){:root{--page:#171a20;--card:#1f232b;--ink:#e4e6ea;--dim:#9aa3b2;--line:#363c48;--bad:#ff8f85;--warn:#e8b04b;--good:#7fd6a0;--accent:#8ec3ec;--bar:#4d7da3;--track:#2a303a}}
*{box-sizing:border-box}
html{scroll-padding-top:1rem}
body{margin:0;background:var(--page);color:var(--ink);font:15px/1.5 system-ui,sans-serif}
.page{max-width:72rem;margin:0 auto;padding:0 1.25rem}
header{padding-top:1.25rem}
h1{font-size:1.5rem;margin:0}
h2{font-size:1.2rem;margin:2rem 0 .75rem;border-bottom:1px solid var(--line);padding-bottom:.25rem}
h3{font-size:1.05rem;margin:0;display:inline-block}
h4{font-size:1rem;margin:1rem 0 .4rem}
h4.part{font-size:1.05rem;margin-top:1.6rem}
p{margin:.4rem 0}
.dim{color:var(--dim)}.path{margin:0;overflow-wrap:anywhere}
.error{color:var(--bad)}.warning{color:var(--warn)}.note{color:var(--dim)}.good{color:var(--good)}
.nowrap{white-space:nowrap}
.totals a{margin-right:.6rem}
a{color:var(--accent);text-underline-offset:.15em}
a.error{color:var(--bad)}a.warning{color:var(--warn)}a.note{color:var(--dim)}
:is(a,select,input,summary,button,.scroll):focus-visible{outline:3px solid var(--accent);outline-offset:2px}
.skip{position:absolute;left:-99rem}.skip:focus{left:1rem;top:1rem;background:var(--card);padding:.5rem;z-index:2}
.unseen{position:absolute;width:1px;height:1px;overflow:hidden;clip-path:inset(50%)}
nav ul{list-style:none;padding:0;margin:0}
nav>ul{display:flex;flex-wrap:wrap;gap:.25rem 1.25rem;padding:.75rem 1.25rem 0;max-width:72rem;margin:0 auto}
nav ul ul{display:none}
@media (min-width:72rem){body{display:grid;grid-template-columns:14rem minmax(0,1fr)}nav{position:sticky;top:0;height:100vh;overflow-y:auto;border-right:1px solid var(--line);padding:1.25rem 0}nav>ul{display:grid;gap:.45rem}nav ul ul{display:grid;gap:.15rem;padding-left:.9rem;margin-top:.25rem}.page{width:100%}}
.cards{display:grid;grid-template-columns:repeat(auto-fit,minmax(min(17rem,100%),1fr));gap:.9rem;margin:.5rem 0}
.card{background:var(--card);border:1px solid var(--line);border-radius:.35rem;padding:.7rem .95rem}
.verdict{font-size:1.05rem}
.blockers,.plain,.places{list-style:none;padding:0;margin:.25rem 0}
.blockers li{padding-left:1.1rem;text-indent:-1.1rem;margin:.2rem 0}.blockers li::before{content:"✗ ";color:var(--bad)}
.scroll{overflow-x:auto}
table{border-collapse:collapse;width:100%;background:var(--card);font-size:.92rem}
th,td{border:1px solid var(--line);padding:.35rem .55rem;text-align:left;vertical-align:top}
thead th{background:var(--page)}tbody th{font-weight:600}
td.number{text-align:right;font-variant-numeric:tabular-nums}
.counts span{white-space:nowrap}
details{margin:.5rem 0}
summary{cursor:pointer;padding:.2rem 0}
details.app{border-top:1px solid var(--line);padding:.4rem 0}
.matrix{border:1px solid var(--line);border-radius:.35rem;background:var(--card)}
.matrix details{margin:0;border-top:1px solid var(--line);padding:0 .7rem}.matrix details[open]{padding-bottom:.8rem}
.row{display:grid;gap:.15rem .8rem;align-items:baseline}
.row.head{padding:.35rem .7rem;color:var(--dim);font-weight:600}
.sides-1 .row{grid-template-columns:1fr 2fr}.sides-2 .row{grid-template-columns:1fr 2fr 2fr}.sides-3 .row{grid-template-columns:1fr 2fr 2fr 2fr}
.matrix summary::before{content:none}
.matrix summary{list-style:none;padding:.35rem 0}.matrix summary::-webkit-details-marker{display:none}
.matrix summary strong::before{content:"▸ ";color:var(--dim)}.matrix details[open]>summary strong::before{content:"▾ "}
article{background:var(--card);border:1px solid var(--line);border-left-width:.35rem;border-radius:.25rem;padding:.5rem .85rem;margin:.5rem 0}
article.is-error{border-left-color:var(--bad)}article.is-warning{border-left-color:var(--warn)}article.is-note{border-left-color:var(--dim)}
article,p,li{overflow-wrap:anywhere}td,th{overflow-wrap:break-word}
article p{margin:.2rem 0}
article h4{margin:0;font-size:.98rem;font-weight:600}
article:target,details:target{outline:2px solid var(--accent)}
.places{display:flex;flex-wrap:wrap;gap:0 1rem;margin:.15rem 0}
code{font:.85rem/1.4 ui-monospace,"DejaVu Sans Mono",monospace;overflow-wrap:anywhere}
td code{overflow-wrap:anywhere}.stacks td{overflow-wrap:anywhere;min-width:5.5rem}.stacks td:nth-child(2){min-width:9rem}td:last-child{min-width:11rem}th .dim{font-weight:400}.plain li{white-space:nowrap}
form{display:none;flex-wrap:wrap;gap:.5rem .8rem;align-items:end;margin:.5rem 0}
.js form{display:flex}
label{display:grid;font-size:.85rem;color:var(--dim);gap:.1rem}
select,input,button{font:inherit;color:inherit;background:var(--card);border:1px solid var(--line);border-radius:.25rem;padding:.25rem .5rem;max-width:100%}
.lines{display:grid;grid-template-columns:repeat(auto-fit,minmax(min(22rem,100%),1fr));gap:0 2rem}
.lines>div{min-width:0}
.phase{color:var(--dim);margin:.6rem 0 .2rem}
.line{list-style:none;margin:0;padding:0}
.line li{display:flex;gap:.7rem;padding:.15rem 0 .5rem;position:relative}
.line li>div{min-width:0}
ol.line li::before{content:"";position:absolute;left:.78rem;top:1.6rem;bottom:-.2rem;width:2px;background:var(--line)}
ol.line li:last-child::before{content:none}
.line .number{flex:none;width:1.7rem;height:1.7rem;border:2px solid var(--line);border-radius:50%;background:var(--card);text-align:center;line-height:1.45rem;font-size:.85rem}
.line .wrong .number{border-color:var(--bad);color:var(--bad)}
.aside{padding-left:2.4rem}
svg{display:block;max-width:100%;margin-top:.2rem}
svg .track{fill:var(--track)}svg .bar{fill:var(--bar)}svg .need{stroke:var(--bad);stroke-width:3}svg .met{stroke:var(--ink);stroke-width:1.5}
[hidden]{display:none!important}
footer{padding:2rem 0;color:var(--dim);font-size:.9rem}
@media (max-width:40rem){.stacks thead{display:none}.stacks tr{display:block;border-bottom:1px solid var(--line);padding:.3rem 0}.stacks :is(td,tbody th){display:block;border:0;min-width:0;padding:.1rem .3rem;overflow-wrap:anywhere}.stacks td::before{content:attr(data-label) ": ";color:var(--dim)}h1{font-size:1.3rem}th,td{padding:.3rem .4rem}.row.head{display:none}.matrix .row{grid-template-columns:1fr!important}.matrix .unseen{position:static;width:auto;height:auto;clip-path:none;color:var(--dim)}}
@media print{body{display:block;background:#fff;color:#000;font-size:12px}.scroll{overflow:visible}td,.stacks td{overflow-wrap:anywhere;min-width:4.8rem}td:nth-child(2),.stacks td:nth-child(2){min-width:6.4rem}td:last-child,.stacks td:last-child,tbody th{overflow-wrap:anywhere;min-width:8rem}form,nav,.skip{display:none!important}article,tr,.card,.line li{break-inside:avoid}h2,h3,h4{break-after:avoid}details::details-content{content-visibility:visible;display:block}a{color:inherit}}
`.trim();
