DROP TABLE styluses;
