//! Path data (SVG 1.1, chapter 8): absolute and relative, smooth curves and arcs, as lines and Bézier curves.
//!
//! Every number is checked before anything is made of it: an arc of a huge radius would become curves without end.

use kurbo::{Arc, BezPath, PathEl, Point, SvgArc, Vec2};
use svgtypes::{PathParser, PathSegment as Segment};

/// Arcs become curves this close, as a share of their size.
pub(super) const ARC_TOLERANCE: f64 = 1e-4;

/// A path that is being read.
struct Pen {
    path: BezPath,
    at: Point,
    /// Where the open stroke began.
    start: Point,
    /// Last control point, for smooth curves after a cubic or a quadratic one.
    cubic: Option<Point>,
    quadratic: Option<Point>,
    /// A stroke that was closed goes on from its start.
    closed: bool,
}

/// Reads path data of at most `room` segments.
pub(super) fn from_data(data: &str, room: usize) -> Result<BezPath, String> {
    let mut pen = Pen {
        path: BezPath::new(),
        at: Point::ZERO,
        start: Point::ZERO,
        cubic: None,
        quadratic: None,
        closed: false,
    };
    for segment in PathParser::from(data) {
        let segment = segment.map_err(|e| format!("a path cannot be read: {e}"))?;
        pen.draw(segment)?;
        if pen.path.elements().len() > room {
            return Err(format!("more than {} segments", super::MOST_SEGMENTS));
        }
    }
    Ok(pen.path)
}

impl Pen {
    fn draw(&mut self, segment: Segment) -> Result<(), String> {
        let o = |abs: bool| if abs { Vec2::ZERO } else { self.at.to_vec2() };
        let (cubic, quadratic) = (self.cubic.take(), self.quadratic.take());
        let mirrored = |of: Option<Point>| of.map_or(self.at, |c| self.at + (self.at - c));
        match segment {
            Segment::MoveTo { abs, x, y } => {
                let to = near(Point::new(x, y) + o(abs))?;
                (self.at, self.start, self.closed) = (to, to, false);
                self.path.move_to(to);
            }
            Segment::ClosePath { .. } => {
                self.path.close_path();
                (self.at, self.closed) = (self.start, true);
            }
            Segment::LineTo { abs, x, y } => self.line(Point::new(x, y) + o(abs))?,
            Segment::HorizontalLineTo { abs, x } => self.line(Point::new(x + o(abs).x, self.at.y))?,
            Segment::VerticalLineTo { abs, y } => self.line(Point::new(self.at.x, y + o(abs).y))?,
            Segment::CurveTo { abs, x1, y1, x2, y2, x, y } => {
                let o = o(abs);
                self.curve(Point::new(x1, y1) + o, Point::new(x2, y2) + o, Point::new(x, y) + o)?;
            }
            Segment::SmoothCurveTo { abs, x2, y2, x, y } => {
                let o = o(abs);
                self.curve(mirrored(cubic), Point::new(x2, y2) + o, Point::new(x, y) + o)?;
            }
            Segment::Quadratic { abs, x1, y1, x, y } => {
                let o = o(abs);
                self.quad(Point::new(x1, y1) + o, Point::new(x, y) + o)?;
            }
            Segment::SmoothQuadratic { abs, x, y } => {
                self.quad(mirrored(quadratic), Point::new(x, y) + o(abs))?
            }
            Segment::EllipticalArc { abs, rx, ry, x_axis_rotation, large_arc, sweep, x, y } => {
                let to = near(Point::new(x, y) + o(abs))?;
                near(Point::new(rx, ry))?;
                let arc = SvgArc {
                    from: self.at,
                    to,
                    radii: Vec2::new(rx.abs(), ry.abs()),
                    x_rotation: near(Point::new(x_axis_rotation, 0.0))?.x.to_radians(),
                    large_arc,
                    sweep,
                };
                self.go_on();
                match Arc::from_svg_arc(&arc) {
                    Some(arc) => {
                        self.path.extend(arc.append_iter(ARC_TOLERANCE * arc.radii.x.max(arc.radii.y)))
                    }
                    // Without a radius an arc is a line.
                    None => self.path.push(PathEl::LineTo(to)),
                }
                self.at = to;
            }
        }
        Ok(())
    }

    /// After a stroke was closed the next begins where it began.
    fn go_on(&mut self) {
        if std::mem::take(&mut self.closed) {
            self.path.move_to(self.start);
        }
    }

    fn line(&mut self, to: Point) -> Result<(), String> {
        self.go_on();
        self.at = near(to)?;
        self.path.line_to(to);
        Ok(())
    }

    fn curve(&mut self, a: Point, b: Point, to: Point) -> Result<(), String> {
        self.go_on();
        self.path.curve_to(near(a)?, near(b)?, near(to)?);
        (self.at, self.cubic) = (to, Some(b));
        Ok(())
    }

    fn quad(&mut self, a: Point, to: Point) -> Result<(), String> {
        self.go_on();
        self.path.quad_to(near(a)?, near(to)?);
        (self.at, self.quadratic) = (to, Some(a));
        Ok(())
    }
}

/// A place that is not too far out.
pub(super) fn near(p: Point) -> Result<Point, String> {
    if p.x.abs() <= super::FARTHEST && p.y.abs() <= super::FARTHEST {
        Ok(p)
    } else {
        Err(format!("has a place farther out than {} units, or none", super::FARTHEST))
    }
}
