/**
 * A page to point at: every tag says where in the source it stands, and a script of ours tells the
 * application what was clicked. Spliced into the page like everything else, so what is shown is the page.
 */
import {
  readAttribute,
  walkElements,
  findFirstElement,
  findHeadEnd,
  isHtml,
  type Edit,
  type Element,
  type PageDocument,
} from '@fastigium/core/html';

const ATTRIBUTE = 'data-fastigium-at';

export function editForPointing(document: PageDocument, nonce: string): Edit[] {
  const edits: Edit[] = [];
  for (const element of walkElements(document.root)) {
    const policy = isOwnPolicy(element);
    if (policy) edits.push({ start: policy.startOffset, end: policy.endOffset, text: '' });
    const start =
      element.sourceCodeLocation?.startTag?.startOffset ??
      (isVoid(element.tagName) ? element.sourceCodeLocation?.startOffset : undefined);
    if (start === undefined || !isHtml(element) || UNSEEN.has(element.tagName)) continue;
    const at = start + 1 + element.tagName.length;
    edits.push({ start: at, end: at, text: ` ${ATTRIBUTE}="${start}"` });
  }
  const at = findFirstElement(document, 'head') ? findHeadEnd(document) : 0;
  edits.push({
    start: at,
    end: at,
    text: `<script nonce="${nonce}">${SCRIPT}</script><style nonce="${nonce}">${STYLE}</style>`,
  });
  return edits;
}

/** A page's own policy would forbid our script; that of the answer is stricter, and holds. */
function isOwnPolicy(element: Element) {
  const isPolicy =
    element.tagName === 'meta' &&
    readAttribute(element, 'http-equiv')?.trim().toLowerCase() === 'content-security-policy';
  return isPolicy ? element.sourceCodeLocation : undefined;
}

const UNSEEN = new Set(['html', 'head', 'script', 'style', 'title', 'meta', 'link', 'template', 'noscript', 'base']);
const isVoid = (tag: string) =>
  tag === 'img' || tag === 'input' || tag === 'br' || tag === 'hr' || tag === 'embed' || tag === 'source';

const STYLE = `[data-fastigium-over]{outline:2px solid #2e4c8a!important;outline-offset:2px!important;cursor:pointer!important}[data-fastigium-chosen]{outline:2px solid #a63f27!important;outline-offset:2px!important}`;

const SCRIPT = `(()=>{
const NAME='${ATTRIBUTE}';
const known=(node)=>{for(let e=node&&node.nodeType===1?node:node&&node.parentElement;e;e=e.parentElement)if(e.hasAttribute(NAME))return e;return null};
const clear=(name)=>{for(const e of document.querySelectorAll('['+name+']'))e.removeAttribute(name)};
const placeAt=(x,y,target)=>{
  if(target.tagName==='IMG')return{element:target,child:null};
  let node=null;
  if(document.caretPositionFromPoint){const p=document.caretPositionFromPoint(x,y);node=p&&p.offsetNode}
  else if(document.caretRangeFromPoint){const r=document.caretRangeFromPoint(x,y);node=r&&r.startContainer}
  if(node&&node.nodeType===3&&node.nodeValue.trim()!==''&&target.contains(node)){const e=node.parentElement;if(e.hasAttribute(NAME))return{element:e,child:[...e.childNodes].indexOf(node)}}
  const e=known(target);if(!e)return null;
  const child=[...e.childNodes].findIndex((n)=>n.nodeType===3&&n.nodeValue.trim()!=='');
  return{element:e,child:child<0?null:child};
};
addEventListener('mouseover',(event)=>{clear('data-fastigium-over');const e=known(event.target);if(e&&e!==document.body)e.setAttribute('data-fastigium-over','')},true);
for(const kind of['click','auxclick','submit'])addEventListener(kind,(event)=>{
  event.preventDefault();event.stopPropagation();
  if(kind!=='click')return;
  const place=placeAt(event.clientX,event.clientY,event.target);
  clear('data-fastigium-chosen');
  if(!place){parent.postMessage({fastigium:'nothing'},'*');return}
  place.element.setAttribute('data-fastigium-chosen','');
  parent.postMessage({fastigium:'pointed',start:Number(place.element.getAttribute(NAME)),child:place.child},'*');
},true);
})()`;
