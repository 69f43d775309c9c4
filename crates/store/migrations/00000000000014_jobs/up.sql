-- What is to be done without anybody asking, as the library `fang` keeps it (its migration of 2022-08-20, with ids that need no extension).
CREATE TYPE fang_task_state AS ENUM ('new', 'in_progress', 'failed', 'finished', 'retried');
CREATE TABLE fang_tasks (
    id uuid PRIMARY KEY DEFAULT gen_random_uuid(),
    metadata jsonb NOT NULL,
    error_message text,
    state fang_task_state NOT NULL DEFAULT 'new',
    task_type text NOT NULL DEFAULT 'common',
    uniq_hash text,
    retries integer NOT NULL DEFAULT 0,
    scheduled_at timestamptz NOT NULL DEFAULT now(),
    created_at timestamptz NOT NULL DEFAULT now(),
    updated_at timestamptz NOT NULL DEFAULT now()
);
-- Copies of the server that put the same job down at once put it down once.
CREATE UNIQUE INDEX fang_tasks_waiting ON fang_tasks (uniq_hash) WHERE state IN ('new', 'retried');
CREATE INDEX fang_tasks_next ON fang_tasks (task_type, state, scheduled_at);
