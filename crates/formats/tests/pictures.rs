//! Pictures from outside: values kept, changes told, harm refused. The files of `data/pictures` were written by a general image
//! library (Pillow 12), which also gives the values expected here.

use saltmarsh_formats::image::{grey_png, read_grey};
use saltmarsh_formats::picture::{self, Read};

fn file(name: &str) -> Vec<u8> {
    std::fs::read(format!("{}/tests/data/pictures/{name}", env!("CARGO_MANIFEST_DIR")))
        .expect("the file is there")
}

fn read(name: &str) -> Read {
    picture::read(&file(name)).unwrap_or_else(|e| panic!("{name}: {e}"))
}

#[test]
fn grey_of_8_and_16_bits_keeps_every_level() {
    let (eight, sixteen) = (read("grey8.png"), read("grey16.png"));
    for y in 0..6_u16 {
        for x in 0..8_u16 {
            let at = usize::from(y * 8 + x);
            assert_eq!(eight.grey.values()[at], (x * 32 + y * 3) * 257, "8 bits at {x}, {y}");
            assert_eq!(sixteen.grey.values()[at], x * 8000 + y * 1000 + 7, "16 bits at {x}, {y}");
        }
    }
    assert!(eight.changes.is_empty() && sixteen.changes.is_empty());
    // What is kept is what was read.
    let again = read_grey(&grey_png(&sixteen.grey).expect("a PNG")).expect("read back");
    assert_eq!(again.hash(), sixteen.grey.hash());
}

#[test]
fn colour_becomes_grey_and_what_is_clear_becomes_black() {
    // ITU-R BT.709 luma of the encoded channels.
    let luma = |x: f64, y: f64| (0.2126 * 30.0 * x + 0.7152 * 40.0 * y + 0.0722 * (255.0 - 30.0 * x)) * 257.0;
    for (name, share, most) in [
        ("colour.png", 1.0, 1.5),
        ("lossless.webp", 1.0, 1.5),
        ("palette.png", 1.0, 6000.0),
        ("half-clear.png", 128.0 / 255.0, 1.5),
    ] {
        let Read { grey, changes } = read(name);
        for (i, v) in grey.values().iter().enumerate() {
            let want = share * luma((i % 8) as f64, (i / 8) as f64);
            assert!((f64::from(*v) - want).abs() <= most, "{name} at {i}: {v}, want {want}");
        }
        assert!(changes.iter().any(|c| c.contains("grey")), "{name} tells that its colour is gone");
        assert_eq!(changes.iter().any(|c| c.contains("transparent")), name == "half-clear.png", "{name}");
    }
}

#[test]
fn lossy_and_printer_s_pictures_are_read_about_right() {
    for (name, level, most) in
        [("grey.jpg", 200.0, 2.0), ("lossy.webp", 120.0, 3.0), ("cmyk.jpg", 255.0, 2.0)]
    {
        let grey = read(name).grey;
        let mean =
            grey.values().iter().map(|v| f64::from(*v)).sum::<f64>() / grey.values().len() as f64 / 257.0;
        assert!((mean - level).abs() < most, "{name}: {mean}, want {level}");
    }
    let Read { grey, changes } = read("turned.jpg");
    assert_eq!((grey.width(), grey.height()), (16, 24), "a camera's turn is undone");
    assert!(changes.iter().any(|c| c.contains("upright")));
}

/// A PNG that claims these sides, with a little data.
fn claiming(width: u32, height: u32) -> Vec<u8> {
    let mut out = file("grey16.png");
    out[16..20].copy_from_slice(&width.to_be_bytes());
    out[20..24].copy_from_slice(&height.to_be_bytes());
    // The header's checksum, so that only the sides are wrong.
    let crc = crc32fast::hash(&out[12..29]);
    out[29..33].copy_from_slice(&crc.to_be_bytes());
    out
}

#[test]
fn what_may_do_harm_is_refused_with_a_word_for_it() {
    let mut cut = file("grey8.png");
    cut.truncate(60);
    let mut wrong = file("grey8.png");
    wrong[1] = b'X';
    let cases: [(&str, Vec<u8>, &str); 9] = [
        ("sides of 65,535 px", claiming(65_535, 65_535), "4096"),
        ("a side of 4097 px", claiming(8, 4097), "4096"),
        ("more pixels than data", claiming(4000, 4000), "damaged"),
        ("cut short", cut, "damaged"),
        ("a wrong header", wrong, "PNG, JPEG or WebP"),
        ("a TIFF", file("grey.tif"), "PNG, JPEG or WebP"),
        ("an animated WebP", file("animated.webp"), "animation"),
        ("an animated PNG", file("animated.png"), "animation"),
        ("nothing", Vec::new(), "PNG, JPEG or WebP"),
    ];
    for (what, bytes, word) in cases {
        let refused = picture::read(&bytes).expect_err(what);
        assert_eq!(refused.field, "image", "{what}");
        assert!(refused.message.contains(word), "{what}: {}", refused.message);
    }
    assert!(picture::read(&file("grey.gif")).is_err());
    let long = vec![0; picture::MOST_BYTES + 1];
    assert!(picture::read(&long).expect_err("too long").message.contains("32 MiB"));
}

#[test]
fn damaged_pictures_never_do_worse_than_a_refusal() {
    // Every byte of small files in turn, flipped three ways.
    for name in ["grey8.png", "grey.jpg", "lossless.webp", "lossy.webp"] {
        let whole = file(name);
        for at in 0..whole.len() {
            for flip in [0x01, 0x80, 0xff] {
                let mut bytes = whole.clone();
                bytes[at] ^= flip;
                if let Ok(read) = picture::read(&bytes) {
                    assert!(read.grey.width() <= 4096 && read.grey.height() <= 4096, "{name}, byte {at}");
                }
            }
        }
    }
}
