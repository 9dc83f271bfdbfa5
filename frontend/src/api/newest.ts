/** Answers that come in another order than they were asked for: only the newest one is taken. */
export function newest<T>(take: (answer: T) => void): (coming: Promise<T>) => Promise<void> {
  let asked = 0;
  return async (coming) => {
    const mine = ++asked;
    const answer = await coming;
    if (mine === asked) take(answer);
  };
}
