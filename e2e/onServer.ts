import type { Page } from '@playwright/test';

/** What the server has of who is signed in, as a page’s own requests get it. */

export async function todosOf(page: Page) {
  const answer = await page.request.get('/api/changes?since=0', { maxRetries: 2 });
  const { todos } = (await answer.json()) as {
    todos: { id: string; details: { title: string } }[];
  };
  return todos;
}
/** The record of a to-do by its title. */
export async function recordOf(page: Page, title: string) {
  const { id } = (await todosOf(page)).find(({ details }) => details.title === title)!;
  const answer = await page.request.get(`/api/todos/${id}`, { maxRetries: 2 });
  return (await answer.json()) as {
    record: { slot: string; status: string; closedAt: string }[];
    todo: { open: { plan: string }[]; createdAt: string };
  };
}
