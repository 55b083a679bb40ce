import { App, Button } from 'antd';
import { useRef } from 'react';

/** A sentence of this length is read; the first few problems of a refused file say what kind of file it is. */
const SENTENCE_MOST = 400;
/** How long what was deleted is offered, s. */
const OFFERED_S = 20;

interface Attempts {
  /** Asks the server for something: what goes wrong is said. While the same is under way, a second click does nothing. */
  attempt(what: string, work: () => Promise<unknown>): void;
  /** Says that something was deleted, with a button that brings it back. It is nowhere else any more: where that fails, it is offered again. */
  offerBack(what: string, sentence: string, bringBack: () => Promise<unknown>): void;
}

/** @param after what is done after each, whether or not it went well */
export function useAttempt(after: () => void): Attempts {
  const { message, notification } = App.useApp();
  const underWay = useRef(new Set<string>());
  const told = async (work: () => Promise<unknown>): Promise<boolean> => {
    try {
      await work();
      return true;
    } catch (error) {
      const said = (error as Error).message;
      void message.error(said.length > SENTENCE_MOST ? `${said.slice(0, SENTENCE_MOST)} …` : said, 8);
      return false;
    } finally {
      after();
    }
  };
  const attempt = async (what: string, work: () => Promise<unknown>) => {
    if (underWay.current.has(what)) return;
    underWay.current.add(what);
    await told(work);
    underWay.current.delete(what);
  };
  const offerBack = (what: string, sentence: string, bringBack: () => Promise<unknown>) => {
    const undo = async () => {
      notification.destroy(what);
      if (!(await told(bringBack))) offerBack(what, sentence, bringBack);
    };
    notification.info({ key: what, title: sentence, duration: OFFERED_S, actions: <Button onClick={() => void undo()}>Undo</Button> });
  };
  return { attempt: (what, work) => void attempt(what, work), offerBack };
}
