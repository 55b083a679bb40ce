import type { JoinedDevice } from '../../protocol/devices';
import { DeviceRow } from './models';

export interface StoredDevice extends JoinedDevice {
  tokenHash: string;
}

/** The devices that have joined, in SQLite. */
export class DeviceRepository {
  async list(): Promise<StoredDevice[]> {
    return (await DeviceRow.findAll({ order: ['joinedAtMs'] })).map((row) => row.get({ plain: true }));
  }

  async create(device: StoredDevice): Promise<void> {
    await DeviceRow.create(device);
  }

  async change(id: string, set: { name?: string; surface?: string | null }): Promise<void> {
    await DeviceRow.update(set, { where: { id } });
  }

  async remove(id: string): Promise<void> {
    await DeviceRow.destroy({ where: { id } });
  }
}
