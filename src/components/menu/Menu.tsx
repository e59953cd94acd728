import { DropdownMenu } from 'radix-ui';
import type { ReactNode } from 'react';

interface Props {
  readonly label: string;
  readonly title?: string;
  readonly align?: 'start' | 'end';
  readonly className?: string;
  readonly children: ReactNode;
}

const ITEM = 'flex min-h-9 cursor-pointer items-center gap-2 rounded-sm px-3 py-1.5 data-[highlighted]:bg-wash';

/** A button with a list of choices under it. */
export function Menu({ label, title, align = 'start', className = 'quiet !px-3', children }: Props) {
  return (
    <DropdownMenu.Root modal={false}>
      <DropdownMenu.Trigger className={className} aria-label={title}>
        {label}
      </DropdownMenu.Trigger>
      <DropdownMenu.Portal>
        <DropdownMenu.Content className="panel z-20 min-w-40 p-1 shadow-lg" align={align} sideOffset={2}>
          {children}
        </DropdownMenu.Content>
      </DropdownMenu.Portal>
    </DropdownMenu.Root>
  );
}

export const MenuItem = ({ onSelect, children }: { onSelect: () => void; children: ReactNode }) => (
  <DropdownMenu.Item className={ITEM} onSelect={onSelect}>
    {children}
  </DropdownMenu.Item>
);

/** A choice that is on or off; the menu stays open, because several are often set one after the other. */
export const MenuCheck = ({ on, onChange, children }: { on: boolean; onChange: () => void; children: ReactNode }) => (
  <DropdownMenu.CheckboxItem className={ITEM} checked={on} onCheckedChange={onChange} onSelect={(e) => e.preventDefault()}>
    <span aria-hidden className="figure w-3">
      {on ? '✓' : ''}
    </span>
    {children}
  </DropdownMenu.CheckboxItem>
);
