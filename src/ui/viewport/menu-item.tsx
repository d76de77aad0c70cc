"use client";
import { DropdownMenu } from "radix-ui";
import type { ReactNode } from "react";

/** A line of the menu at the pointer. */
export function MenuItem({ children, ...rest }: { children: ReactNode } & DropdownMenu.DropdownMenuItemProps) {
  return (
    <DropdownMenu.Item
      className="flex cursor-pointer items-center gap-2 rounded px-2 py-1 outline-none data-[highlighted]:bg-pick-wash"
      {...rest}
    >
      {children}
    </DropdownMenu.Item>
  );
}
