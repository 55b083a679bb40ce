/** What the system's MIDI libraries print where there is no sequencer; what they could not do is said by us in our own words. */
const FOREIGN = [/^\s*$/, /^ALSA lib /, /^MidiInAlsa::/, /^MidiOutAlsa::/, /^RtMidi/, /^(Cannot connect to server|jack server is not running|JackShm|attempt to connect to server)/i];

/** Whether a line that a process of ours printed is none of ours and nothing that anybody could act on. */
export const isForeign = (line: string): boolean => FOREIGN.some((pattern) => pattern.test(line));
