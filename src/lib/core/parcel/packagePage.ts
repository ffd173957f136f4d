import { asLink } from './packageBundle';
import type { PackedPaper, PageOf, ParcelPatient } from './packageParts';

export interface PackageTold {
  title: string;
  who: readonly ParcelPatient[];
  deidentified: boolean;
  clinic: string;
  words: string;
  pages: readonly PageOf[];
  papers?: readonly PackedPaper[];
  /** What is told before pictures are looked at, and what only when it is asked for. */
  told?: { first: readonly string[]; hidden: readonly string[] };
}

const escaped = (text: string) => text.replace(/[&<>"']/g, (sign) => `&#${sign.charCodeAt(0)};`);
/** Data inside a script: nothing in it can end the script. */
const inScript = (value: unknown) =>
  JSON.stringify(value).replace(
    /[<>&\u2028\u2029]/g,
    (sign) => `\\u${sign.charCodeAt(0).toString(16).padStart(4, '0')}`
  );

const lines = (all: readonly string[]) => all.map((line) => `<p>${escaped(line)}</p>`).join('');
const toldParts = ({ first, hidden }: NonNullable<PackageTold['told']>) =>
  `${lines(first)}<button aria-expanded="false">Show what was found</button><div hidden>${lines(hidden)}</div>`;

const paperLinks = (papers: readonly PackedPaper[]) =>
  `<h2>Papers</h2><ul>${papers.map(({ title, file }) => `<li><a href="${asLink(file)}">${escaped(title)}</a></li>`).join('')}</ul>`;

const style = `
:root{color-scheme:dark;--ink:#eef3ef;--soft:#a9b8b0;--ground:#101614;--sheet:#1a2320;--rule:#37453f;--ice:#9fd8ea}
*{box-sizing:border-box}
body{margin:0;background:var(--ground);color:var(--ink);font:17px/1.45 system-ui,sans-serif;display:grid;grid-template:auto auto 1fr auto/19rem 1fr;height:100vh}
header{grid-column:1/3;padding:.8rem 1.4rem;border-bottom:1px solid var(--rule);display:flex;gap:1.5rem;align-items:baseline;flex-wrap:wrap}
h1{font-size:1.5rem;margin:0}
header p{margin:0;color:var(--soft)}
.told{grid-column:1/3;padding:.5rem 1.4rem;max-height:26vh;overflow:auto;border-bottom:1px solid var(--rule)}
.told p{margin:.2rem 0;max-width:80ch;white-space:pre-line}
.told button{font:inherit;min-height:44px;padding:0 1.1rem;border-radius:.5rem;border:1px solid var(--ice);background:var(--sheet);color:inherit;cursor:pointer}
nav{overflow:auto;padding:.8rem;border-right:1px solid var(--rule)}
nav h2{font-size:1rem;margin:1rem .4rem .3rem}
nav ul{list-style:none;margin:0;padding:0 .4rem}
nav ul a{display:flex;min-height:44px;align-items:center}
nav ol{list-style:none;margin:0;padding:0;display:grid;gap:.5rem}
nav button{all:unset;box-sizing:border-box;display:grid;grid-template-columns:5rem 1fr;gap:.7rem;align-items:center;width:100%;min-height:44px;padding:.4rem;border-radius:.5rem;cursor:pointer}
nav button:hover{background:var(--sheet)}
nav button[aria-current=true]{background:var(--sheet);outline:2px solid var(--ice)}
nav button:focus-visible,main button:focus-visible,main input:focus-visible{outline:3px solid var(--ice);outline-offset:2px}
nav img{width:5rem;height:4rem;object-fit:contain;background:#000;border-radius:.3rem}
nav small{color:var(--soft);display:block}
main{display:grid;grid-template-rows:1fr auto;min-width:0;min-height:0}
figure{margin:0;min-height:0;display:flex;align-items:center;justify-content:center;background:#060908;overflow:hidden}
figure img{max-width:100%;max-height:100%;object-fit:contain}
.under{display:flex;gap:1rem;align-items:center;padding:.8rem 1.4rem;border-top:1px solid var(--rule);min-height:68px}
.under strong{font-size:1.1rem}
.under label{display:flex;gap:.7rem;align-items:center;flex:1;min-width:0}
.under input{flex:1;min-height:44px}
.under button{font:inherit;min-height:44px;padding:0 1.1rem;border-radius:.5rem;border:1px solid var(--rule);background:var(--sheet);color:inherit;cursor:pointer}
footer{grid-column:1/3;padding:.6rem 1.4rem;border-top:1px solid var(--rule);color:var(--soft);font-size:.9rem}
a{color:var(--ice)}
[hidden]{display:none!important}
@media(max-width:760px){body{grid-template:auto auto auto 1fr auto/1fr}header,.told,footer{grid-column:1}nav{border-right:0;border-bottom:1px solid var(--rule);max-height:34vh}}
`;

/** Runs in any browser from the file system: no module, nothing fetched, no word of it comes from elsewhere. */
const script = `
const pictures=JSON.parse(document.getElementById('told').textContent);
const list=document.querySelector('nav ol'),image=document.querySelector('figure img'),what=document.querySelector('.under strong'),more=document.querySelector('.under span'),slide=document.querySelector('.under input'),label=document.querySelector('.under label'),play=document.querySelector('.under button');
let at=0,frame=0,timer=null,open=false;
const reveal=document.querySelector('.told button'),answer=document.querySelector('.told div[hidden]');
if(reveal)reveal.onclick=()=>{open=!open;answer.hidden=!open;reveal.setAttribute('aria-expanded',open);reveal.textContent=open?'Hide what was found':'Show what was found';show()};
const stop=()=>{if(timer){clearInterval(timer);timer=null}play.textContent='Play'};
const show=()=>{const p=pictures[at];image.src=(open&&p.found[frame])||p.files[frame];image.alt=p.what+(p.place?', '+p.place:'');what.textContent=p.what;more.textContent=[p.place,p.date,p.remark,p.files.length>1?'frame '+(frame+1)+' of '+p.files.length:''].filter(Boolean).join(' · ');label.hidden=p.files.length<2;play.hidden=p.files.length<2||!p.frameMs;slide.max=p.files.length-1;slide.value=frame;[...list.querySelectorAll('button')].forEach((b,i)=>b.setAttribute('aria-current',i===at))};
const go=to=>{stop();at=(to+pictures.length)%pictures.length;frame=0;show();list.querySelectorAll('button')[at].scrollIntoView({block:'nearest'})};
pictures.forEach((p,i)=>{const item=document.createElement('li'),button=document.createElement('button'),small=document.createElement('img'),words=document.createElement('span'),line=document.createElement('small');small.src=p.files[0];small.alt='';small.loading='lazy';words.textContent=p.what;line.textContent=[p.place,p.date].filter(Boolean).join(' · ');words.append(line);button.append(small,words);button.onclick=()=>go(i);item.append(button);list.append(item)});
slide.oninput=()=>{stop();frame=Number(slide.value);show()};
play.onclick=()=>{if(timer)return stop();play.textContent='Stop';timer=setInterval(()=>{frame=(frame+1)%pictures[at].files.length;show()},pictures[at].frameMs)};
addEventListener('keydown',e=>{if(e.target===slide)return;const p=pictures[at];if(e.key==='ArrowDown'||e.key==='PageDown'){e.preventDefault();go(at+1)}else if(e.key==='ArrowUp'||e.key==='PageUp'){e.preventDefault();go(at-1)}else if(e.key==='ArrowRight'&&p.files.length>1){stop();frame=(frame+1)%p.files.length;show()}else if(e.key==='ArrowLeft'&&p.files.length>1){stop();frame=(frame-1+p.files.length)%p.files.length;show()}});
if(pictures.length)show();
`;

/**
 * The page inside a package: it shows the pictures in any browser, from a disc or a folder, without this product and
 * without a network.
 */
export function packagePage({
  title,
  who,
  deidentified,
  clinic,
  words,
  pages,
  papers = [],
  told
}: PackageTold): string {
  const shown = pages.filter(({ files }) => files.length > 0);
  // A kept view is a part of one, and has a remark, if an empty one.
  const count = shown.filter(({ remark }) => remark === undefined).length;
  const about = who
    .map(({ id, born }) =>
      [deidentified ? '' : `no. ${id}`, born ? `born ${born}` : ''].filter(Boolean).join(', ')
    )
    .filter(Boolean)
    .join('; ');
  return `<!doctype html>
<html lang="en">
<head>
<meta charset="utf-8">
<meta name="viewport" content="width=device-width, initial-scale=1">
<meta http-equiv="Content-Security-Policy" content="default-src 'none'; img-src 'self' file: data:; style-src 'unsafe-inline'; script-src 'unsafe-inline'">
<title>${escaped(title)}</title>
<style>${style}</style>
</head>
<body>
<header><h1>${escaped(title)}</h1><p>${escaped(about)}</p><p>${count === 1 ? 'One picture' : `${count} pictures`}${deidentified ? ', de-identified' : ''}${clinic ? ` · ${escaped(clinic)}` : ''}</p></header>
<section class="told" aria-label="About the case"${told ? '' : ' hidden'}>${told ? toldParts(told) : ''}</section>
<nav aria-label="Pictures and papers"><ol></ol>${papers.length > 0 ? paperLinks(papers) : ''}</nav>
<main><figure><img alt=""></figure><div class="under"><div><strong></strong><br><span></span></div><label hidden>Frame <input type="range" min="0" value="0"></label><button hidden>Play</button></div></main>
<footer>${words ? `${escaped(words)} · ` : ''}Shown for looking only. The pictures themselves lie beside this page as DICOM. ↑ ↓ go from picture to picture, ← → from frame to frame.</footer>
<script type="application/json" id="told">${inScript(
    shown.map(({ what, place, date, frameMs, files, remark = '', found = [] }) => ({
      what,
      place,
      date,
      remark,
      frameMs,
      files: files.map(asLink),
      found: found.map(asLink)
    }))
  )}</script>
<script>${script}</script>
</body>
</html>
`;
}
