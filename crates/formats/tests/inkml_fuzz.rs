//! InkML that was damaged at random: never a panic, never a gesture outside its limits, and what is taken comes back the same.
//! `PROPTEST_CASES=300000 cargo test -p saltmarsh-formats --test inkml_fuzz` runs more.

mod damage;

use std::path::Path;

use damage::{config, damage, damaged};
use proptest::prelude::*;
use saltmarsh_core::hand::gesture::{FARTHEST_MM, MOST_SAMPLES};
use saltmarsh_formats::inkml;

const SOUND: [&str; 4] = [
    "a_default_explicit.inkml",
    "b_differences.inkml",
    "c_seven_channels_group.inkml",
    "d_streaming_context.inkml",
];

/// What a damaged or ill-meant document may hold.
const SNIPPETS: [&str; 22] = [
    "<",
    ">",
    "\"",
    "'",
    "&",
    "!",
    "*",
    ",",
    "-",
    "NaN",
    "1e400",
    "-1e300",
    "99999999999999999999",
    "'12",
    "\"3",
    "<trace>",
    "</trace>",
    "</ink>",
    "<!ENTITY a \"&a;&a;\">",
    "&#x0;",
    "<channel name=\"F\"/>",
    "\u{feff}",
];

fn sound(index: usize) -> String {
    let path = Path::new(env!("CARGO_MANIFEST_DIR")).join("tests/data/inkml").join(SOUND[index]);
    std::fs::read_to_string(path).expect("a test document")
}

proptest! {
    #![proptest_config(config())]
    #[test]
    fn damaged_documents_do_no_harm(which in 0..SOUND.len(), harm in damage(SNIPPETS.len())) {
        let text = damaged(&sound(which), harm, &SNIPPETS);
        let Ok(document) = inkml::read(&text) else { return Ok(()) };
        let Ok(gesture) = inkml::to_gesture(&document) else { return Ok(()) };
        prop_assert!(gesture.sample_count() <= MOST_SAMPLES);
        for s in gesture.passes().iter().flatten() {
            prop_assert!(s.pack().iter().all(|v| v.is_finite()), "{s:?}");
            prop_assert!(s.x.abs() <= FARTHEST_MM && s.y.abs() <= FARTHEST_MM && (0.0..=1.0).contains(&s.pressure));
        }
        let again = inkml::to_gesture(&inkml::read(&inkml::write(&gesture)).expect("our own document"));
        prop_assert_eq!(again.expect("our own gesture").sample_count(), gesture.sample_count());
    }
}
