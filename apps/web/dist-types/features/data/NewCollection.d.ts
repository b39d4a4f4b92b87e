/** Makes a collection. */
export declare function NewCollection({
  open,
  onClose,
  onMade,
}: {
  open: boolean;
  onClose: () => void;
  onMade: (name: string) => void;
}): import('react').JSX.Element;
