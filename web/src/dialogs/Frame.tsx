import { Modal } from "@mantine/core";
import type { ReactNode } from "react";

interface Props {
  opened?: boolean;
  title: string;
  size?: number | string;
  onClose: () => void;
  /** Whether a press beside it, or on a cross, leaves it. */
  leaves?: boolean;
  children: ReactNode;
}

/** The frame of a dialog: a title, a cross, and what is in it. The page keeps its banner to itself. */
export function Frame({ opened = true, title, size, onClose, leaves = true, children }: Props) {
  return (
    <Modal.Root opened={opened} onClose={onClose} size={size} closeOnClickOutside={leaves}>
      <Modal.Overlay />
      <Modal.Content>
        <Modal.Header role="presentation">
          <Modal.Title>{title}</Modal.Title>
          {leaves && <Modal.CloseButton aria-label="Close" />}
        </Modal.Header>
        <Modal.Body>{children}</Modal.Body>
      </Modal.Content>
    </Modal.Root>
  );
}
