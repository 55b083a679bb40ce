import { App } from 'antd';
import { useRef } from 'react';
import { LIMITS } from '../../../protocol/limits';
import { EditButton } from '../shared/edit';
import { FilePicker } from '../shared/FilePicker';
import { takeIn } from './fetchTakes';

/** Takes a file in as a take: a MIDI file, recorded signals, or a take of another Pumice. */
export function ImportTake({ onTaken }: { onTaken: (id: string) => void }) {
  const input = useRef<HTMLInputElement>(null);
  const { message } = App.useApp();
  const take = (file: File) =>
    void (async () => {
      if (file.size > LIMITS.takeFileBytes) throw new Error(`${file.name} has ${Math.round(file.size / 1e6)} MB, and a take has at most ${Math.round(LIMITS.takeFileBytes / 1e6)}.`);
      const { take: taken, remarks } = await takeIn(file);
      onTaken(taken.id);
      for (const remark of remarks) void message.warning(remark, 8);
    })().catch((error: Error) => message.error(error.message, 10));
  return (
    <>
      <EditButton onClick={() => input.current?.click()}>
        Take in a file
      </EditButton>
      <FilePicker input={input} label="MIDI file, recorded signals or take" accept=".mid,.midi,.csv,.jsonl,.json" onFile={take} />
    </>
  );
}
