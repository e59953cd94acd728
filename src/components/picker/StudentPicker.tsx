import { Command } from 'cmdk';
import { ChevronsUpDown } from 'lucide-react';
import { Popover } from 'radix-ui';
import { useState } from 'react';
import { PICKER } from '#words/picker.ts';

export interface Student {
  readonly id: string;
  readonly name: string;
}

interface Props {
  readonly students: readonly Student[];
  readonly label: string;
  readonly className?: string;
  /** Words of the button that acts on the choice; without it the choice itself is the act. */
  readonly act?: string;
  readonly onChoose: (student: string) => unknown;
}

/** Chooses a student by typing or from the list. Arrow keys only move through the list; nothing happens before the button. */
export function StudentPicker({ students, label, className = '', act, onChoose }: Props) {
  const [open, setOpen] = useState(false);
  const [chosen, setChosen] = useState<Student | null>(null);
  const choose = (s: Student): void => {
    setOpen(false);
    if (act) setChosen(s);
    else onChoose(s.id);
  };
  return (
    <span className={`inline-flex gap-1 ${className}`}>
      <Popover.Root open={open} onOpenChange={setOpen}>
        <Popover.Trigger
          className="field inline-flex !w-60 items-center justify-between gap-2 text-left"
          role="combobox"
          aria-label={label}
          aria-expanded={open}
        >
          <span className={chosen ? '' : 'text-soft'}>{chosen ? `${chosen.name} ${chosen.id}` : PICKER.choose}</span>
          <ChevronsUpDown size={14} aria-hidden />
        </Popover.Trigger>
        <Popover.Portal>
          <Popover.Content className="panel z-20 w-72 p-1 shadow-lg" align="start" sideOffset={2}>
            <Command label={label} filter={(value, search) => (value.toLowerCase().includes(search.toLowerCase()) ? 1 : 0)}>
              <Command.Input className="field mb-1" placeholder={PICKER.type} />
              <Command.List className="max-h-64 overflow-y-auto">
                <Command.Empty className="p-2 text-soft">{PICKER.none}</Command.Empty>
                {students.map((s) => (
                  <Command.Item
                    key={s.id}
                    value={`${s.name} ${s.id}`}
                    className="flex cursor-pointer justify-between rounded-sm px-2 py-1.5 aria-selected:bg-wash"
                    onSelect={() => choose(s)}
                  >
                    {s.name} <span className="figure text-soft">{s.id}</span>
                  </Command.Item>
                ))}
              </Command.List>
            </Command>
          </Popover.Content>
        </Popover.Portal>
      </Popover.Root>
      {act && (
        <button type="button" className="act" disabled={!chosen} onClick={() => chosen && onChoose(chosen.id)}>
          {act}
        </button>
      )}
    </span>
  );
}
