//! PDF: pictures at their true size, with captions.

use miniz_oxide::deflate::compress_to_vec_zlib;
use pdf_writer::{Content, Filter, Finish, Name, Pdf, Rect, Ref, Str, TextStr};
use saltmarsh_core::FieldError;

/// PDF counts in points from the lower left.
const POINTS_A_MM: f32 = 72.0 / 25.4;
/// Side of a page at most, mm (14,400 points: ISO 32000-1, annex C).
const MOST_PAGE_MM: f64 = 5080.0;
const FONT: Name<'static> = Name(b"F");
const COMPRESSION: u8 = 6;

/// One page, built from the top left, lengths in mm.
pub struct Page {
    width_mm: f64,
    height_mm: f64,
    content: Content,
    /// RGB, deflated, and its size in pixels.
    pictures: Vec<(Vec<u8>, i32, i32)>,
}

impl Page {
    /// # Errors
    /// Names `page` where a side is none, or beyond what PDF knows.
    pub fn new(width_mm: f64, height_mm: f64) -> saltmarsh_core::Result<Self> {
        for side in [width_mm, height_mm] {
            saltmarsh_core::error::within("page", side, 1.0, MOST_PAGE_MM, "mm")?;
        }
        Ok(Self { width_mm, height_mm, content: Content::new(), pictures: Vec::new() })
    }

    /// Puts RGBA (`width` a row; what is see-through lies on white) with its corner at a place, pixels of `pixel_mm`.
    ///
    /// # Errors
    /// Names `picture` where the pixels are not `4 × width × height` bytes.
    pub fn picture(
        &mut self,
        rgba: &[u8],
        [width, height]: [usize; 2],
        [left_mm, top_mm]: [f64; 2],
        pixel_mm: f64,
    ) -> saltmarsh_core::Result<()> {
        if width == 0 || height == 0 || rgba.len() != 4 * width * height {
            return Err(FieldError::new(
                "picture",
                format!("must have {width} × {height} pixels of four bytes"),
            ));
        }
        let over_white = |p: &[u8], k: usize| {
            let alpha = u16::from(p[3]);
            ((u16::from(p[k]) * alpha + 255 * (255 - alpha)) / 255) as u8
        };
        let rgb: Vec<u8> = rgba.chunks_exact(4).flat_map(|p| [0, 1, 2].map(|k| over_white(p, k))).collect();
        let name = format!("P{}", self.pictures.len());
        let [wide, high] = [width, height].map(|n| points(n as f64 * pixel_mm));
        let [x, y] = [points(left_mm), points(self.height_mm - top_mm) - high];
        self.content.save_state();
        self.content.transform([wide, 0.0, 0.0, high, x, y]);
        self.content.x_object(Name(name.as_bytes()));
        self.content.restore_state();
        self.pictures.push((compress_to_vec_zlib(&rgb, COMPRESSION), width as i32, height as i32));
        Ok(())
    }

    /// Writes a line whose baseline begins at a place, letters of `size_pt` points, in shades of grey from 0 (black).
    pub fn text(&mut self, text: &str, [left_mm, base_mm]: [f64; 2], size_pt: f64, grey: f64) {
        self.content.begin_text();
        self.content.set_fill_gray(grey as f32);
        self.content.set_font(FONT, size_pt as f32);
        self.content.next_line(points(left_mm), points(self.height_mm - base_mm));
        self.content.show(Str(&win_ansi(text)));
        self.content.end_text();
    }

    /// The document of this page alone.
    pub fn finish(self, title: &str) -> Vec<u8> {
        let [catalog, pages, page, content, font, info] = [1, 2, 3, 4, 5, 6].map(Ref::new);
        let picture = |i: usize| Ref::new(7 + i as i32);
        let mut pdf = Pdf::new();
        pdf.catalog(catalog).pages(pages);
        pdf.document_info(info).title(TextStr(title)).producer(TextStr("Saltmarsh"));
        pdf.pages(pages).kids([page]).count(1);
        let mut writer = pdf.page(page);
        writer.parent(pages).contents(content);
        writer.media_box(Rect::new(0.0, 0.0, points(self.width_mm), points(self.height_mm)));
        let mut resources = writer.resources();
        resources.fonts().pair(FONT, font);
        let mut objects = resources.x_objects();
        for i in 0..self.pictures.len() {
            objects.pair(Name(format!("P{i}").as_bytes()), picture(i));
        }
        objects.finish();
        resources.finish();
        writer.finish();
        pdf.type1_font(font).base_font(Name(b"Helvetica")).encoding_predefined(Name(b"WinAnsiEncoding"));
        pdf.stream(content, &self.content.finish());
        for (i, (bytes, width, height)) in self.pictures.iter().enumerate() {
            let mut image = pdf.image_xobject(picture(i), bytes);
            image.filter(Filter::FlateDecode);
            image.width(*width).height(*height).bits_per_component(8);
            image.color_space().device_rgb();
        }
        pdf.finish()
    }
}

fn points(mm: f64) -> f32 {
    mm as f32 * POINTS_A_MM
}

/// Text as the fonts that every reader has can show it (WinAnsiEncoding, ISO 32000-1, annex D): other letters become question marks.
fn win_ansi(text: &str) -> Vec<u8> {
    let byte = |c: char| match c {
        ' '..='~' | '\u{a0}'..='\u{ff}' => c as u8,
        '…' => 0x85,
        '‘' => 0x91,
        '’' => 0x92,
        '“' => 0x93,
        '”' => 0x94,
        '•' => 0x95,
        '–' | '−' => 0x96,
        '—' => 0x97,
        'Š' => 0x8a,
        'š' => 0x9a,
        'Ž' => 0x8e,
        'ž' => 0x9e,
        'Œ' => 0x8c,
        'œ' => 0x9c,
        'Ÿ' => 0x9f,
        '€' => 0x80,
        _ => b'?',
    };
    text.chars().map(byte).collect()
}

#[cfg(test)]
mod tests {
    use super::*;

    fn text_of(pdf: &[u8]) -> String {
        String::from_utf8_lossy(pdf).into_owned()
    }

    #[test]
    fn a_picture_has_its_true_size_and_place() {
        let mut page = Page::new(297.0, 210.0).expect("A4");
        // 80 mm at 254 dpi (a tenth of a millimetre a pixel), 20 mm from the left and 30 mm from the top.
        page.picture(&vec![128; 4 * 800 * 140], [800, 140], [20.0, 30.0], 0.1).expect("whole");
        page.text("Flicks", [20.0, 28.0], 9.0, 0.0);
        let pdf = text_of(&page.finish("Proof"));
        // In points (1/72 inch): 226.77 × 39.69 wide and high, its lower left at 56.69, (210 − 30 − 14) mm = 470.55.
        let placed = pdf.lines().find(|l| l.ends_with(" cm")).expect("a transformation");
        let numbers: Vec<f64> = placed.split(' ').filter_map(|n| n.parse().ok()).collect();
        for (got, expected) in numbers.iter().zip([226.77, 0.0, 0.0, 39.69, 56.69, 470.55]) {
            assert!((got - expected).abs() < 0.01, "{placed}");
        }
        assert!(pdf.contains("/MediaBox [0 0 841.88"), "A4 across is 841.89 points wide: {pdf:.300}");
        assert!(pdf.contains("/Width 800") && pdf.contains("/Height 140"));
        // Octal 226, 223 and 224 in annex D; no reader's own fonts have the last one.
        assert_eq!(win_ansi("Flicks – “brisk” 草"), b"Flicks \x96 \x93brisk\x94 ?");
    }

    #[test]
    fn what_is_no_page_or_picture_is_refused_by_field() {
        assert_eq!(Page::new(0.0, 10.0).err().expect("no page").field, "page");
        let mut page = Page::new(100.0, 100.0).expect("a page");
        assert_eq!(
            page.picture(&[0; 12], [2, 2], [0.0, 0.0], 0.1).expect_err("too few bytes").field,
            "picture"
        );
    }
}
