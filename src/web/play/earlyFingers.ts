/** Where a page keeps the fingers that came down before its scripts were there. */
const PLACE = 'pumiceEarlyFingers';

interface EarlyFingers {
  /** By pointer: the last that was heard of each that is down. */
  down: Map<number, PointerEvent>;
  end: () => void;
}

const place = () => window as { [PLACE]?: EarlyFingers };

/** A script for the first answer of a page: its controls stand there before they can hear, and what is put on them meanwhile is noted. */
export const EARLY_FINGERS_SCRIPT = `(()=>{const early=window.${PLACE}={down:new Map(),end:()=>each('removeEventListener')},{down}=early,\
held=(event)=>{if(event.type==='pointerdown'||down.has(event.pointerId))down.set(event.pointerId,event)},lifted=(event)=>down.delete(event.pointerId),\
each=(does)=>{for(const [type,hear] of [['pointerdown',held],['pointermove',held],['pointerup',lifted],['pointercancel',lifted]])window[does](type,hear,true)};\
each('addEventListener')})()`;

/** The page heard by itself how this pointer came down: said again, it would press twice. */
export function heardAlready(pointerId: number): void {
  place()[PLACE]?.down.delete(pointerId);
}

/**
 * What lies on the page already comes down on what is under it now, as if just put there; what was lifted meanwhile is left out, as with a
 * line that was away. For when the controls can be heard; later calls do nothing.
 */
export function takeEarlyFingers(): void {
  const global = place();
  const early = global[PLACE];
  delete global[PLACE];
  if (!early) return;
  early.end();
  for (const { pointerId, pointerType, isPrimary, clientX, clientY, width, height, pressure, buttons } of early.down.values()) {
    // Of a mouse the first button plays, as ever.
    if (pointerType === 'mouse' && !(buttons & 1)) continue;
    const init = { bubbles: true, cancelable: true, pointerId, pointerType, isPrimary, clientX, clientY, width, height, pressure, buttons };
    document.elementFromPoint(clientX, clientY)?.dispatchEvent(new PointerEvent('pointerdown', init));
  }
}
