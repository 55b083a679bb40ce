#!/usr/bin/python3
"""The independent other end of MIDI ports, of Debian's python3-rtmidi. It makes a port to be written to and one to be heard,
prints every message that it gets as a line of hex, and sends what it is told on its standard input, a line a message.
`burst N` as a line sends N controllers at once. It goes when its input ends."""
import sys
import time
import rtmidi

name = sys.argv[1]
into = rtmidi.MidiIn(rtmidi.API_UNIX_JACK, name=name + " in", queue_size_limit=100000)
out = rtmidi.MidiOut(rtmidi.API_UNIX_JACK, name=name + " out")
into.ignore_types(sysex=False, timing=False, active_sense=False)
into.set_callback(lambda event, _: print(" ".join("%02X" % byte for byte in event[0]), flush=True))
into.open_virtual_port("in")
out.open_virtual_port("out")
others = []
print("ready", flush=True)
for line in sys.stdin:
    words = line.split()
    if words[0] == "burst":
        for i in range(int(words[1])):
            out.send_message([0xB0, 20, i % 128])
    elif words[0] == "open":
        # A port that some program makes: found by a part of its name, as soon as it is there.
        other = rtmidi.MidiIn(rtmidi.API_UNIX_JACK, name=name + " b", queue_size_limit=100000)
        other.set_callback(lambda event, _: print("b " + " ".join("%02X" % byte for byte in event[0]), flush=True))
        found = []
        while not found:
            time.sleep(0.05)
            found = [i for i, port in enumerate(other.get_ports()) if words[1] in port]
        other.open_port(found[0], "b")
        print("opened", flush=True)
        others.append(other)
    else:
        out.send_message([int(word, 16) for word in words])
# Each is taken away in order: a JACK server waits for ever for a client that only ends.
for port in [into, out, *others]:
    port.close_port()
    port.delete()
