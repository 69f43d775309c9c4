DROP TABLE fang_tasks;
DROP TYPE fang_task_state;
