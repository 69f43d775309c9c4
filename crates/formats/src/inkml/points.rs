//! The text of a trace: points of explicit values, first and second differences.

use super::channel::Channel;

/// No number that means something is longer, characters; and so much white space may be within a point.
const LONGEST_VALUE: usize = 64;
const LONGEST_SPACE: usize = 256;

/// Decodes the text of one trace. `room`: points that may still be read.
///
/// Points are separated by commas, values by white space, which may be left out before a prefix or a minus sign. `!`
/// explicit, `'` first difference, `"` second difference; a prefix stays in force for its channel to the end of the trace.
/// `*` repeats value, velocity or acceleration; `?` is not reported.
pub fn decode(text: &str, channels: &[Channel], room: usize) -> Result<Vec<Vec<Option<f64>>>, String> {
    if text.bytes().filter(|b| *b == b',').count() >= room {
        return Err(format!("more than {} points in the document", super::MOST_POINTS));
    }
    let longest = LONGEST_SPACE + LONGEST_VALUE * channels.len();
    let mut states = vec![State::default(); channels.len()];
    let regular = channels.iter().filter(|c| !c.intermittent).count();
    let mut points = Vec::new();
    for (n, point) in text.split(',').enumerate() {
        if point.len() > longest && point.trim().len() > longest {
            return Err(format!("point {n}: is {} characters long, at most {longest} are read", point.len()));
        }
        let tokens = tokens(point).map_err(|e| format!("point {n}: {e}"))?;
        if tokens.is_empty() && n == 0 && text.trim().is_empty() {
            return Err("has no points".to_owned());
        }
        if tokens.len() < regular || tokens.len() > channels.len() {
            let wanted = if regular == channels.len() {
                format!("{regular}")
            } else {
                format!("{regular} to {}", channels.len())
            };
            return Err(format!("point {n}: has {} values for {wanted} channels", tokens.len()));
        }
        let mut values = Vec::with_capacity(channels.len());
        for (i, (channel, state)) in channels.iter().zip(&mut states).enumerate() {
            let value = match tokens.get(i) {
                Some(token) => {
                    state.take(token).map_err(|e| format!("point {n}, channel {}: {e}", channel.name))?
                }
                None => state.reported.then_some(state.value).or(channel.default),
            };
            values.push(value);
        }
        points.push(values);
    }
    Ok(points)
}

#[derive(Debug, Clone, Copy, PartialEq, Default)]
enum Mode {
    #[default]
    Explicit,
    First,
    Second,
}

#[derive(Debug, Clone, Copy, PartialEq)]
enum Value {
    Number(f64),
    Repeat,
    Missing,
}

struct Token {
    prefix: Option<Mode>,
    value: Value,
}

#[derive(Debug, Clone, Copy, Default)]
struct State {
    mode: Mode,
    value: f64,
    velocity: Option<f64>,
    acceleration: f64,
    reported: bool,
}

impl State {
    fn take(&mut self, token: &Token) -> Result<Option<f64>, String> {
        if let Some(mode) = token.prefix {
            self.mode = mode;
        }
        if token.value == Value::Missing {
            *self = Self { mode: self.mode, ..Self::default() };
            return Ok(None);
        }
        if self.mode != Mode::Explicit && !self.reported {
            return Err("a difference needs an explicit value before it".to_owned());
        }
        match (self.mode, token.value) {
            (Mode::Explicit, Value::Number(v)) => {
                *self = Self { value: v, reported: true, ..Self::default() };
            }
            (Mode::Explicit, _) if self.reported => {}
            (Mode::Explicit, _) => return Err("nothing to repeat".to_owned()),
            (Mode::First, value) => {
                let v = match value {
                    Value::Number(v) => v,
                    _ => self.velocity.ok_or("no velocity to repeat")?,
                };
                self.velocity = Some(v);
                self.value += v;
            }
            (Mode::Second, value) => {
                let before = self.velocity.ok_or("a second difference needs a first difference before it")?;
                if let Value::Number(a) = value {
                    self.acceleration = a;
                }
                self.velocity = Some(before + self.acceleration);
                self.value += before + self.acceleration;
            }
        }
        if self.value.is_finite() { Ok(Some(self.value)) } else { Err("is not a finite number".to_owned()) }
    }
}

fn tokens(point: &str) -> Result<Vec<Token>, String> {
    let bytes = point.as_bytes();
    let mut out = Vec::new();
    let mut i = 0;
    while i < bytes.len() {
        let prefix = match bytes[i] {
            b if b.is_ascii_whitespace() => {
                i += 1;
                continue;
            }
            b'!' => Some(Mode::Explicit),
            b'\'' => Some(Mode::First),
            b'"' => Some(Mode::Second),
            _ => None,
        };
        if prefix.is_some() {
            i += 1;
            while i < bytes.len() && bytes[i].is_ascii_whitespace() {
                i += 1;
            }
        }
        let (value, used) = value(&bytes[i..]).ok_or_else(|| {
            let rest: String = point[i..].chars().take(12).collect();
            format!("\"{rest}\" is not a value")
        })?;
        i += used;
        // A value ends at white space, a prefix, a minus sign or the end.
        if let Some(next) = bytes.get(i)
            && !(next.is_ascii_whitespace()
                || matches!(next, b'!' | b'\'' | b'"' | b'-' | b'*' | b'?' | b'#'))
            && matches!(value, Value::Number(_))
        {
            let rest: String = point[i..].chars().take(12).collect();
            return Err(format!("\"{rest}\" after a value"));
        }
        out.push(Token { prefix, value });
    }
    Ok(out)
}

fn value(bytes: &[u8]) -> Option<(Value, usize)> {
    match *bytes.first()? {
        b'*' => return Some((Value::Repeat, 1)),
        b'?' => return Some((Value::Missing, 1)),
        b'T' => return Some((Value::Number(1.0), 1)),
        b'F' => return Some((Value::Number(0.0), 1)),
        _ => {}
    }
    let minus = usize::from(bytes[0] == b'-');
    if bytes.get(minus) == Some(&b'#') {
        let digits = bytes[minus + 1..].iter().take_while(|b| matches!(b, b'0'..=b'9' | b'A'..=b'F')).count();
        let text = std::str::from_utf8(&bytes[minus + 1..minus + 1 + digits]).ok()?;
        let v = i64::from_str_radix(text, 16).ok()? as f64;
        return Some((Value::Number(if minus == 1 { -v } else { v }), minus + 1 + digits));
    }
    let mut end = minus;
    let digits = |from: usize| bytes[from..].iter().take_while(|b| b.is_ascii_digit()).count();
    let whole = digits(end);
    end += whole;
    let mut fraction = 0;
    if bytes.get(end) == Some(&b'.') {
        fraction = digits(end + 1);
        end += 1 + fraction;
    }
    if whole + fraction == 0 {
        return None;
    }
    if matches!(bytes.get(end), Some(b'e' | b'E')) {
        let sign = usize::from(matches!(bytes.get(end + 1), Some(b'-' | b'+')));
        let exponent = digits(end + 1 + sign);
        if exponent > 0 {
            end += 1 + sign + exponent;
        }
    }
    let v: f64 = std::str::from_utf8(&bytes[..end]).ok()?.parse().ok()?;
    v.is_finite().then_some((Value::Number(v), end))
}
