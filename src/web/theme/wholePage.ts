/** So long after a script did not come it is asked for again, and then as often; longer where the page was loaded anew already, for it may never come. */
const [AGAIN_MS, AGAIN_LATER_MS] = [1000, 5000];

/**
 * A script for the first answer of a page. One of those that follow may never come: a network swallows it, or Pumice dies over it. Then everything
 * stands there and nothing lives. So the page says it, and is loaded anew as soon as anybody answers for what is missing. What is fetched later,
 * when a screen is opened, is not its concern.
 */
export const WHOLE_PAGE_SCRIPT = `(()=>{const missing=({target})=>{if(!(target instanceof HTMLScriptElement)||!target.src)return;end();\
const bar=document.createElement('p');bar.setAttribute('role','alert');bar.textContent='Not all of this page has come. It is loaded anew as soon as the rest can be had.';\
bar.style.cssText='position:fixed;inset:0 0 auto;z-index:9999;margin:0;padding:12px;text-align:center;background:#b5452c;color:#fff';document.body.append(bar);\
const ms=performance.getEntriesByType('navigation')[0]?.type==='reload'?${AGAIN_LATER_MS}:${AGAIN_MS},\
again=()=>setTimeout(()=>fetch(target.src,{cache:'reload'}).then(()=>location.reload(),again),ms);again()},\
end=()=>removeEventListener('error',missing,true);addEventListener('error',missing,true);addEventListener('load',end)})()`;
