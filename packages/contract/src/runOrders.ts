/** Which kept runs come first. In a file of its own: the interface needs these words, and none of the schemas beside them. */
export const runOrders = ['recent', 'slowest', 'wasteful', 'memory'] as const;
