export async function benchSquare(): Promise<void> {}
