/** Exit statuses of every command. */
export const STATUS = { done: 0, someFailed: 1, wrongCall: 2, stopped: 130 } as const;
