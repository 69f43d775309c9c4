//! A trace as comma-separated values (RFC 4180): a line a dab, units in the header's names.

use saltmarsh_core::chain::Quality;
use saltmarsh_core::stroke::Trace;
use saltmarsh_core::stroke::trace::COMMON;
use saltmarsh_core::tool::Tool;

/// The trace of a stroke that `tool` laid, numbers in full precision. Columns: what every trace tells, the qualities of the tool's
/// medium, input, share and output of each response (empty where it is off), then what the medium tells.
///
/// # Panics
/// Never: lines of one length into memory cannot fail.
pub fn write(tool: &Tool, trace: &Trace) -> String {
    let parameters = tool.medium.parameters();
    let qualities: Vec<(Quality, &str)> =
        Quality::ALL.into_iter().filter_map(|q| parameters.of_quality(q).map(|p| (q, p.id))).collect();
    let mut header: Vec<String> = COMMON.iter().map(|(column, _)| column.id.to_owned()).collect();
    header.extend(qualities.iter().map(|(_, id)| id.replace('.', "_")));
    for response in &tool.responses {
        header.extend(["input", "share", "output"].map(|part| format!("{}_{part}", response.id)));
    }
    header.extend(trace.columns.iter().map(|column| column.id.to_owned()));

    let mut out = csv::WriterBuilder::new().terminator(csv::Terminator::CRLF).from_writer(Vec::new());
    out.write_record(&header).expect(IN_MEMORY);
    for dab in &trace.dabs {
        let mut line: Vec<String> = COMMON.iter().map(|(_, value)| value(dab).to_string()).collect();
        line.extend(qualities.iter().map(|(q, _)| dab.qualities[q.index()].to_string()));
        for index in 0..tool.responses.len() {
            let did = dab.factors.iter().find(|f| f.response == index);
            line.extend(did.map_or([const { String::new() }; 3], |f| {
                [f.input, f.share, f.output].map(|v| v.to_string())
            }));
        }
        line.extend(dab.values.iter().map(f64::to_string));
        out.write_record(&line).expect(IN_MEMORY);
    }
    String::from_utf8(out.into_inner().expect(IN_MEMORY)).expect("text was written")
}

const IN_MEMORY: &str = "lines of one length into memory";

#[cfg(test)]
mod tests {
    use super::*;
    use saltmarsh_core::stroke::DabTrace;

    #[test]
    fn every_line_has_a_field_for_every_column() {
        let mut tool = Tool::parse(include_str!("../../../demo/tools/vine-charcoal-side.json"))
            .expect("the demo's tool");
        tool.responses[0].id = "a, \"b\"".into();
        let columns = tool.medium.columns();
        let dab = DabTrace {
            qualities: vec![0.5; Quality::COUNT],
            at_mm: 1.25,
            values: (0..columns.len()).map(|i| i as f64).collect(),
            ..DabTrace::default()
        };
        let dabs = vec![dab.clone(), DabTrace { at_mm: 2.5, ..dab }];
        let text = write(&tool, &Trace { dabs, columns, ..Trace::default() });
        let mut reader = csv::Reader::from_reader(text.as_bytes());
        let header = reader.headers().expect("a header").clone();
        let at = |name: &str| header.iter().position(|h| h == name).unwrap_or_else(|| panic!("no {name}"));
        let lines: Vec<csv::StringRecord> =
            reader.records().collect::<Result<_, _>>().expect("as many fields in every line");
        assert_eq!(lines.len(), 2);
        assert_eq!((&lines[0][at("at_mm")], &lines[1][at("at_mm")]), ("1.25", "2.5"));
        assert_eq!((&lines[0][at("covered")], &lines[0][at("a, \"b\"_share")]), ("2", ""));
    }
}
