//! When the sheet's time goes while a stroke is drawn.
//!
//! By itself each step goes when the reports' own times have come to it. Where a step costs more than a screen can spare, whoever
//! draws may have time wait for the stroke: it then tells between which contacts how many steps went, and laid anew after that the
//! stroke gives the same sheet.

/// When steps of time go.
#[derive(Debug, Clone, Default)]
enum Going {
    /// Each when it is due.
    #[default]
    Due,
    /// When they are let go.
    Held,
    /// As it was told, `next` first: before the contact of which number, how many.
    Told { steps: Vec<(u64, u64)>, next: usize },
}

/// The sheet's time during a stroke.
#[derive(Debug, Clone, Default)]
pub(super) struct Timing {
    going: Going,
    due: u64,
    gone: u64,
    /// Before the contact of which number how many steps went.
    went: Vec<(u64, u64)>,
    /// Some did not go when they were due.
    late: bool,
}

impl Timing {
    /// `late`: something moves already.
    pub(super) fn hold(&mut self, late: bool) {
        (self.going, self.late) = (Going::Held, late);
    }

    /// The pen lifts: what waits does not go any more; where nothing ever waited, time goes on as it is due.
    pub(super) fn lift(&mut self) {
        if matches!(self.going, Going::Held) && !self.late {
            self.going = Going::Due;
        }
    }

    /// So many steps are due before the contact of this number: how many go. `free`: they cost nothing.
    pub(super) fn come_to(&mut self, due: u64, contact: u64, free: bool) -> u64 {
        self.due = self.due.max(due);
        match &mut self.going {
            Going::Held if !free => {
                self.late |= self.waits() > 0;
                0
            }
            Going::Due | Going::Held => self.go(contact, self.waits()),
            Going::Told { steps, next } => {
                let now = steps[*next..].iter().take_while(|(before, _)| *before <= contact);
                let (count, sum) = now.fold((0, 0), |(count, sum), (_, steps)| (count + 1, sum + steps));
                *next += count;
                sum
            }
        }
    }

    /// Steps that are due and have not gone.
    pub(super) fn waits(&self) -> u64 {
        self.due - self.gone
    }

    /// So many of those that wait go now, before the contact of this number: how many do.
    pub(super) fn let_go(&mut self, steps: u64, contact: u64) -> u64 {
        self.go(contact, steps.min(self.waits()))
    }

    fn go(&mut self, contact: u64, steps: u64) -> u64 {
        self.gone += steps;
        match self.went.last_mut() {
            _ if steps == 0 => {}
            Some((before, sum)) if *before == contact => *sum += steps,
            _ => self.went.push((contact, steps)),
        }
        steps
    }

    /// Contacts after those before it, and steps that went then, again and again; nothing where all went as they were due.
    pub(super) fn told(&self) -> Option<Vec<u32>> {
        let mut last = 0;
        let pairs = self.went.iter().flat_map(|&(contact, steps)| {
            let since = contact - std::mem::replace(&mut last, contact);
            [since as u32, steps as u32]
        });
        self.late.then(|| pairs.collect())
    }

    /// Goes as it was [told](Timing::told).
    pub(super) fn as_told(told: &[u32]) -> Self {
        let mut contact = 0;
        let steps = told.chunks_exact(2).map(|pair| {
            contact += u64::from(pair[0]);
            (contact, u64::from(pair[1]))
        });
        Self { going: Going::Told { steps: steps.collect(), next: 0 }, ..Self::default() }
    }
}
