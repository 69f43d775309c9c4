//! The document: formats, contexts and traces.

use std::collections::HashMap;

use quick_xml::events::{BytesStart, Event};
use quick_xml::{Reader, XmlVersion};
use saltmarsh_core::FieldError;

use super::channel::Channel;
use super::points;

/// One decoded trace; `None` where a value was not reported.
#[derive(Debug, Clone, PartialEq)]
pub struct Trace {
    pub id: String,
    pub channels: Vec<Channel>,
    pub points: Vec<Vec<Option<f64>>>,
    /// The pen was in the air.
    pub pen_up: bool,
    /// Which of the document's outermost trace groups it is in.
    pub group: Option<usize>,
}

/// A trace that could not be decoded; the others stand.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct Refused {
    pub id: String,
    pub reason: String,
}

/// A decoded document.
#[derive(Debug, Clone, PartialEq, Default)]
pub struct Document {
    pub traces: Vec<Trace>,
    pub refused: Vec<Refused>,
    /// Titles of the outermost trace groups (annotations of type `title`).
    pub titles: Vec<Option<String>>,
}

type Format = Vec<Channel>;

/// No more of a title is read than this, bytes and one piece of text.
const LONGEST_TITLE: usize = 400;

#[derive(Default)]
struct State {
    formats: HashMap<String, Format>,
    sources: HashMap<String, Option<Format>>,
    contexts: HashMap<String, Format>,
    /// Format of traces that name no context.
    current: Option<Format>,
    /// Formats of the open trace groups.
    groups: Vec<Option<Result<Format, String>>>,
    /// What is being read.
    format: Option<(Option<String>, Format)>,
    intermittent: bool,
    source: Option<(Option<String>, Option<Format>)>,
    context: Option<OpenContext>,
    trace: Option<OpenTrace>,
    definitions: usize,
    /// Formats, sources and contexts so far.
    defined: usize,
    /// Titles of the outermost groups so far, and the text of the title that is being read.
    titles: Vec<Option<String>>,
    title: Option<String>,
}

struct OpenContext {
    id: Option<String>,
    format: Option<Format>,
    problem: Option<String>,
}

struct OpenTrace {
    id: String,
    format: Result<Format, String>,
    pen_up: bool,
    text: String,
}

/// Reads a document.
///
/// # Errors
/// Refuses the whole document where it is not well-formed, too large, too deep, or has a document type (entities).
/// A trace with bad points, or one that names a context that is not there, is refused alone.
pub fn read(text: &str) -> Result<Document, FieldError> {
    let refuse = |message: String| FieldError::new("inkml", message);
    if text.len() > super::MOST_BYTES {
        return Err(refuse(format!("is {} bytes; at most {} are read", text.len(), super::MOST_BYTES)));
    }
    let mut reader = Reader::from_str(text);
    let mut state = State::default();
    let mut document = Document::default();
    let mut open: Vec<String> = Vec::new();
    let mut count = 0;
    let mut seen_root = false;
    loop {
        let event = reader.read_event().map_err(|e| refuse(format!("is not well-formed XML: {e}")))?;
        match event {
            Event::DocType(_) => return Err(refuse("has a document type; entities are not read".to_owned())),
            Event::Start(e) => {
                let name = local(&e);
                if open.is_empty() && (seen_root || name != "ink") {
                    return Err(refuse(format!("its root is <{name}>, not <ink>")));
                }
                seen_root = true;
                state.start(
                    &name,
                    &attributes(&e).map_err(refuse)?,
                    document.traces.len() + document.refused.len(),
                );
                open.push(name);
                if open.len() > super::MOST_DEPTH {
                    return Err(refuse(format!("is nested deeper than {} elements", super::MOST_DEPTH)));
                }
            }
            Event::Empty(e) => {
                let name = local(&e);
                if open.is_empty() {
                    return Err(refuse(format!("its root <{name}> is empty")));
                }
                state.start(
                    &name,
                    &attributes(&e).map_err(refuse)?,
                    document.traces.len() + document.refused.len(),
                );
                state.end(&name, &mut document, &mut count)?;
                state.check(&document).map_err(refuse)?;
            }
            Event::End(_) => {
                let name = open.pop().ok_or_else(|| refuse("closes more than it opens".to_owned()))?;
                state.end(&name, &mut document, &mut count)?;
                state.check(&document).map_err(refuse)?;
            }
            Event::Text(t) => {
                state.text(&t.decode().map_err(|e| refuse(format!("is not UTF-8: {e}")))?);
            }
            Event::GeneralRef(r) => {
                if state.trace.is_some() {
                    return Err(refuse("uses an entity inside a trace; entities are not read".to_owned()));
                }
                // XML's own five and character references; there can be no others without a document type.
                let name = r.decode().map_err(|e| refuse(format!("is not UTF-8: {e}")))?;
                let character = r.resolve_char_ref().ok().flatten().map(String::from);
                let own = quick_xml::escape::resolve_predefined_entity(&name).map(str::to_owned);
                state.text(&character.or(own).unwrap_or_default());
            }
            Event::CData(t) => {
                state.text(&t.decode().map_err(|e| refuse(format!("is not UTF-8: {e}")))?);
            }
            Event::Eof => break,
            Event::Decl(_) | Event::PI(_) | Event::Comment(_) => {}
        }
    }
    if !open.is_empty() {
        return Err(refuse(format!("ends inside <{}>: it is cut off", open[open.len() - 1])));
    }
    if !seen_root {
        return Err(refuse("holds no <ink> element".to_owned()));
    }
    document.titles = state.titles;
    Ok(document)
}

type Attributes = HashMap<String, String>;

fn local(e: &BytesStart<'_>) -> String {
    String::from_utf8_lossy(e.local_name().as_ref()).into_owned()
}

fn attributes(e: &BytesStart<'_>) -> Result<Attributes, String> {
    let mut out = HashMap::new();
    for attribute in e.attributes() {
        let attribute = attribute.map_err(|e| format!("has a bad attribute: {e}"))?;
        let value = attribute
            .normalized_value(XmlVersion::default())
            .map_err(|e| format!("has a bad attribute value: {e}"))?;
        out.insert(
            String::from_utf8_lossy(attribute.key.local_name().as_ref()).into_owned(),
            value.into_owned(),
        );
    }
    Ok(out)
}

fn default_format() -> Format {
    vec![Channel::plain("X"), Channel::plain("Y")]
}

fn number(text: &str) -> Option<f64> {
    match text.trim() {
        "T" | "true" => Some(1.0),
        "F" | "false" => Some(0.0),
        t => t.parse().ok().filter(|v: &f64| v.is_finite()),
    }
}

impl State {
    /// Text of the trace or title that is open.
    fn text(&mut self, text: &str) {
        if let Some(trace) = &mut self.trace {
            trace.text.push_str(text);
        } else if let Some(title) = &mut self.title
            && title.len() < LONGEST_TITLE
        {
            title.push_str(text);
        }
    }

    /// Refuses more traces and definitions than any hand needs: each takes memory.
    fn check(&self, document: &Document) -> Result<(), String> {
        if document.traces.len() + document.refused.len() > super::MOST_TRACES {
            return Err(format!("holds more than {} traces", super::MOST_TRACES));
        }
        if self.defined > super::MOST_DEFINITIONS {
            return Err(format!(
                "defines more than {} formats, sources and contexts",
                super::MOST_DEFINITIONS
            ));
        }
        Ok(())
    }

    fn start(&mut self, name: &str, a: &Attributes, index: usize) {
        let get = |key: &str| a.get(key).map(String::as_str);
        self.defined += usize::from(matches!(name, "traceFormat" | "inkSource" | "context"));
        match name {
            "definitions" => self.definitions += 1,
            "traceFormat" => {
                self.format = Some((get("id").map(str::to_owned), Vec::new()));
                self.intermittent = false;
            }
            "intermittentChannels" => self.intermittent = true,
            "channel" => {
                if let Some((_, format)) = &mut self.format
                    && format.len() < super::MOST_CHANNELS
                {
                    format.push(Channel {
                        name: get("name").unwrap_or("").to_owned(),
                        units: get("units").unwrap_or("").to_owned(),
                        min: get("min").and_then(number),
                        max: get("max").and_then(number),
                        default: self.intermittent.then(|| get("default").and_then(number).unwrap_or(0.0)),
                        intermittent: self.intermittent,
                    });
                }
            }
            "inkSource" => self.source = Some((get("id").map(str::to_owned), None)),
            "context" => {
                let mut open = OpenContext { id: get("id").map(str::to_owned), format: None, problem: None };
                match self.context_format(a) {
                    Ok(format) => open.format = format,
                    Err(problem) => open.problem = Some(problem),
                }
                self.context = Some(open);
            }
            "traceGroup" => {
                if self.groups.is_empty() {
                    self.titles.push(None);
                }
                self.groups.push(get("contextRef").map(|r| self.context_named(r)));
            }
            "annotation" if self.groups.len() == 1 && get("type") == Some("title") => {
                self.title = Some(String::new());
            }
            "trace" => {
                let id = get("id").map_or_else(|| format!("trace {}", index + 1), str::to_owned);
                let format = match get("contextRef") {
                    Some(reference) => self.context_named(reference),
                    None => self.inherited(),
                };
                let pen_up = get("type") == Some("penUp");
                self.trace = Some(OpenTrace { id, format, pen_up, text: String::new() });
            }
            _ => {}
        }
    }

    fn end(&mut self, name: &str, document: &mut Document, count: &mut usize) -> Result<(), FieldError> {
        match name {
            "definitions" => self.definitions = self.definitions.saturating_sub(1),
            "intermittentChannels" => self.intermittent = false,
            "traceFormat" => {
                if let Some((id, format)) = self.format.take() {
                    if let Some(id) = id {
                        self.formats.insert(id, format.clone());
                    }
                    if let Some((_, source)) = &mut self.source {
                        *source = Some(format);
                    } else if let Some(context) = &mut self.context {
                        context.format = Some(format);
                    }
                }
            }
            "inkSource" => {
                if let Some((id, format)) = self.source.take() {
                    if let (Some(context), Some(format)) = (&mut self.context, &format) {
                        context.format = Some(format.clone());
                    }
                    if let Some(id) = id {
                        self.sources.insert(id, format);
                    }
                }
            }
            "context" => {
                if let Some(context) = self.context.take()
                    && context.problem.is_none()
                {
                    let format = context.format.unwrap_or_else(default_format);
                    if self.definitions == 0 {
                        self.current = Some(format.clone());
                    }
                    if let Some(id) = context.id {
                        self.contexts.insert(id, format);
                    }
                }
            }
            "traceGroup" => {
                self.groups.pop();
            }
            "annotation" => {
                if let (Some(text), Some(title)) = (self.title.take(), self.titles.last_mut()) {
                    *title = Some(text.trim().to_owned()).filter(|t| !t.is_empty());
                }
            }
            "trace" => {
                if let Some(trace) = self.trace.take() {
                    let decoded = trace.format.and_then(|channels| {
                        let room = super::MOST_POINTS - *count;
                        points::decode(&trace.text, &channels, room).map(|points| (channels, points))
                    });
                    match decoded {
                        Ok((channels, points)) => {
                            *count += points.len();
                            let (id, pen_up) = (trace.id, trace.pen_up);
                            let group = (!self.groups.is_empty()).then(|| self.titles.len() - 1);
                            document.traces.push(Trace { id, channels, points, pen_up, group });
                        }
                        Err(reason) if reason.starts_with("more than") => {
                            return Err(FieldError::new("samples", reason));
                        }
                        Err(reason) => document.refused.push(Refused { id: trace.id, reason }),
                    }
                }
            }
            _ => {}
        }
        Ok(())
    }

    fn context_format(&self, a: &Attributes) -> Result<Option<Format>, String> {
        if let Some(r) = a.get("traceFormatRef") {
            return self
                .formats
                .get(r.trim_start_matches('#'))
                .cloned()
                .map(Some)
                .ok_or_else(|| format!("names the trace format {r}, which is not there"));
        }
        if let Some(r) = a.get("inkSourceRef") {
            return self
                .sources
                .get(r.trim_start_matches('#'))
                .cloned()
                .ok_or_else(|| format!("names the ink source {r}, which is not there"));
        }
        match a.get("contextRef") {
            Some(r) => self.context_named(r).map(Some),
            None => Ok(None),
        }
    }

    fn context_named(&self, reference: &str) -> Result<Format, String> {
        match reference.trim_start_matches('#') {
            "DefaultContext" => Ok(default_format()),
            id => self
                .contexts
                .get(id)
                .cloned()
                .ok_or_else(|| format!("names the context {reference}, which is not there")),
        }
    }

    fn inherited(&self) -> Result<Format, String> {
        if let Some(group) = self.groups.iter().rev().flatten().next() {
            return group.clone();
        }
        Ok(self.current.clone().unwrap_or_else(default_format))
    }
}
