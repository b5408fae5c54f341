// Letters typed after a box was asked for and before it is there: none is lost, and none acts on the page meanwhile.

/** Takes down what is typed from `begin` until the box takes it over. */
export class EarlyKeys {
  private text = '';
  private isWaiting = false;

  private readonly take = (event: KeyboardEvent): void => {
    if (event.ctrlKey || event.metaKey || event.altKey) return;
    if (event.key === 'Backspace') this.text = this.text.slice(0, -1);
    else if (event.key.length === 1) this.text += event.key;
    else return;
    event.preventDefault();
    event.stopPropagation();
  };

  begin(): void {
    if (this.isWaiting) return;
    this.isWaiting = true;
    this.text = '';
    document.addEventListener('keydown', this.take, true);
  }

  /** What was typed; from here on the keys are the box's own. */
  end(): string {
    this.isWaiting = false;
    document.removeEventListener('keydown', this.take, true);
    const { text } = this;
    this.text = '';
    return text;
  }
}
