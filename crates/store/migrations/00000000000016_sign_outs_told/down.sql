DROP TRIGGER tell ON sessions;
DROP FUNCTION tell_signed_out();
