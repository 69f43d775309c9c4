//! A trace as comma-separated values (RFC 4180): a line a dab, units in the header.

use std::fmt::Write;

use saltmarsh_core::stroke::Trace;
use saltmarsh_core::tool::Tool;
use saltmarsh_core::tool::parameter::Quality;

/// The trace of a stroke that `tool` laid. Numbers in full precision; only plain words in the header, so nothing is quoted.
pub fn write(tool: &Tool, trace: &Trace) -> String {
    let mut out = String::from(
        "pass,at_mm,x_mm,y_mm,raw_pressure,pressure,hand_gf,hardest_press,tilt_deg,lean_deg,barrel_deg,speed_mm_s,heading_deg,\
         distance_mm,time_s,paint_left,chance_dab,chance_stroke,lag_mm,lag_ms",
    );
    for quality in Quality::ALL {
        let _ = write!(out, ",{}", quality.parameter().id.replace('.', "_"));
    }
    for response in &tool.responses {
        let id = response.id.replace([',', '"', '\n', '\r'], "_");
        let _ = write!(out, ",{id}_input,{id}_share,{id}_output");
    }
    out.push_str(
        ",length_mm,width_mm,angle_deg,area_mm2,load,covered,contact,full,laid_um_per_mm,pickup_um_per_mm,film_um,travel_mm\r\n",
    );
    for d in &trace.dabs {
        let s = &d.signals;
        let _ = write!(
            out,
            "{},{},{},{},{},{},{},{},{},{},{},{},{},{},{},{},{},{},{},{}",
            d.pass,
            d.at_mm,
            d.x_mm,
            d.y_mm,
            s.raw_pressure,
            s.pressure,
            d.hand_gf,
            s.hardest_press,
            s.tilt_deg,
            s.lean_deg,
            s.barrel_deg,
            s.speed_mm_s,
            s.heading_deg,
            s.distance_mm,
            s.time_s,
            s.paint_left,
            s.chance_dab,
            s.chance_stroke,
            d.lag_mm,
            d.lag_ms
        );
        for value in &d.qualities {
            let _ = write!(out, ",{value}");
        }
        for index in 0..tool.responses.len() {
            // A response that is off has done nothing: its fields stay empty.
            match d.factors.iter().find(|f| f.response == index) {
                Some(f) => _ = write!(out, ",{},{},{}", f.input, f.share, f.output),
                None => out.push_str(",,,"),
            }
        }
        let _ = write!(
            out,
            ",{},{},{},{},{},{},{},{},{},{},{},{}\r\n",
            d.length_mm,
            d.width_mm,
            d.angle_deg,
            d.area_mm2,
            d.load,
            d.covered,
            d.contact,
            d.full,
            d.laid_um_per_mm,
            d.pickup_um_per_mm,
            d.film_um,
            d.travel_mm
        );
    }
    out
}

#[cfg(test)]
mod tests {
    use super::*;
    use saltmarsh_core::stroke::{DabTrace, Trace};

    #[test]
    fn every_line_has_a_field_for_every_column() {
        let tool = Tool::parse(include_str!("../../../demo/tools/vine-charcoal-side.json"))
            .expect("the demo's tool");
        let dab = DabTrace { qualities: vec![0.5; Quality::ALL.len()], at_mm: 1.25, ..DabTrace::default() };
        let text = write(
            &tool,
            &Trace { dabs: vec![dab.clone(), DabTrace { at_mm: 2.5, ..dab }], ..Trace::default() },
        );
        let lines: Vec<Vec<&str>> = text.split_terminator("\r\n").map(|l| l.split(',').collect()).collect();
        assert_eq!(lines.len(), 3);
        assert!(lines.iter().all(|l| l.len() == lines[0].len()), "{text}");
        let at = lines[0].iter().position(|name| *name == "at_mm").expect("the column");
        assert_eq!((lines[1][at], lines[2][at]), ("1.25", "2.5"));
    }
}
