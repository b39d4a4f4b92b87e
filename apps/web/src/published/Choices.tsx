interface ChoicesProps {
  /** Where no legend says what is chosen. */
  readonly label?: string;
  readonly options: readonly unknown[];
  readonly chosen: readonly string[];
  readonly onChosen: (chosen: readonly string[]) => void;
}

/** Several of some values: each by a click or the space bar, without a key held. They come in the order in which they stand. */
export function Choices({ label, options, chosen, onChosen }: ChoicesProps) {
  const texts = options.map(String);
  const turn = (one: string): void => onChosen(texts.filter((text) => chosen.includes(text) !== (text === one)));
  return (
    <div className="choices" {...(label !== undefined && { role: 'group', 'aria-label': label })}>
      {texts.map((text) => (
        <label key={text} className="choice">
          <input type="checkbox" checked={chosen.includes(text)} onChange={() => turn(text)} />
          {text}
        </label>
      ))}
    </div>
  );
}
