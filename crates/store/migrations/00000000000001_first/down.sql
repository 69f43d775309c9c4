DROP TABLE pigments, grounds, gestures, drafts, tool_versions, tools, sessions, painters;
DROP FUNCTION refuse_change;
