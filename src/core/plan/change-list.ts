import { CHANGE_GROUPS, type ChangeGroup } from "./groups";

/** Changes by the million, column by column: of each the unit that it belongs to (a kind's text, say), its row there, and its group. */
export class ChangeList {
  private units = new Uint16Array(64);
  private rows = new Int32Array(64);
  private groups = new Uint8Array(64);
  private members: ReadonlyMap<ChangeGroup, Int32Array> | null = null;
  length = 0;

  /** @param unit a whole number from 0 to 65,535 that whoever fills the list gives a meaning. */
  add(unit: number, row: number, group: ChangeGroup): void {
    if (this.length === this.rows.length) {
      this.units = grown(this.units, new Uint16Array(this.length * 2));
      this.rows = grown(this.rows, new Int32Array(this.length * 2));
      this.groups = grown(this.groups, new Uint8Array(this.length * 2));
    }
    this.units[this.length] = unit;
    this.rows[this.length] = row;
    this.groups[this.length] = CHANGE_GROUPS.indexOf(group);
    this.length++;
    this.members = null;
  }

  unitOf(place: number): number {
    return this.units[place]!;
  }

  rowOf(place: number): number {
    return this.rows[place]!;
  }

  groupOf(place: number): ChangeGroup {
    return CHANGE_GROUPS[this.groups[place]!]!;
  }

  /** The places of a group's changes, rising. */
  ofGroup(group: ChangeGroup): Int32Array {
    return (this.members ??= this.sorted()).get(group)!;
  }

  private sorted(): ReadonlyMap<ChangeGroup, Int32Array> {
    const counts = new Int32Array(CHANGE_GROUPS.length);
    for (let place = 0; place < this.length; place++) counts[this.groups[place]!]!++;
    const lists = [...counts].map((count) => new Int32Array(count));
    const filled = new Int32Array(CHANGE_GROUPS.length);
    for (let place = 0; place < this.length; place++) {
      const group = this.groups[place]!;
      lists[group]![filled[group]!++] = place;
    }
    return new Map(CHANGE_GROUPS.map((group, i) => [group, lists[i]!]));
  }
}

function grown<T extends Uint8Array | Uint16Array | Int32Array>(from: T, to: T): T {
  to.set(from);
  return to;
}
