import { flatControls } from '../surface/controlKinds';
import type { RigDocument, RigSignal } from '../rig/document';

/** Something of Pumice itself that an OSC message can move. */
export type OwnAddress = { address: string; description: string } & ({ kind: 'signal'; signal: RigSignal } | { kind: 'scene'; scene: string } | { kind: 'record' } | { kind: 'mark' } | { kind: 'transport' } | { kind: 'tempo' });

/** Every address of Pumice's own: each part of each control of each surface, each scene, recording, and the transport. */
export function ownAddresses(rig: RigDocument): OwnAddress[] {
  const signals = new Map(rig.signals.map((signal) => [signal.id, signal]));
  const controls = rig.surfaces.flatMap((surface) =>
    surface.pages.flatMap(({ controls: onPage }) =>
      flatControls(onPage).flatMap((control) =>
        Object.entries(control.signals).flatMap(([role, id]): OwnAddress[] => {
          const signal = signals.get(id);
          const description = `${surface.name}: ${control.label}, ${role}`;
          return signal ? [{ kind: 'signal', address: `/pumice/surface/${surface.id}/${control.id}/${role}`, description, signal }] : [];
        }),
      ),
    ),
  );
  const scenes = rig.scenes.map(({ id, name }): OwnAddress => ({ kind: 'scene', address: `/pumice/scene/${id}`, description: `Recalls the scene ${name}`, scene: id }));
  const others: OwnAddress[] = [
    { kind: 'record', address: '/pumice/record', description: 'Records a take: 1 begins it, 0 ends it, nothing changes over' },
    { kind: 'mark', address: '/pumice/mark', description: 'Marks this moment in the take that is recorded' },
    { kind: 'transport', address: '/pumice/transport', description: 'The transport: 1 starts it, 0 stops it, nothing changes over' },
    { kind: 'tempo', address: '/pumice/tempo', description: 'The tempo in beats a minute, 20 to 400' },
  ];
  return [...controls, ...scenes, ...others];
}
