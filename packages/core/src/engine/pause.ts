/** Lets other work of the host go on; resolves when it is this work's turn again. */
export type Pause = () => Promise<void>;
