//! Prints the native checksum of the trial, for the comparison with the browser: `saltmarsh-trial BATCH PIXELS REST`.

fn main() -> Result<(), Box<dyn std::error::Error>> {
    let numbers = std::env::args().skip(1).map(|a| a.parse()).collect::<Result<Vec<usize>, _>>()?;
    let [batch, pixels, rest] = numbers[..] else {
        return Err("usage: saltmarsh-trial BATCH PIXELS REST".into());
    };
    println!("{}", saltmarsh_trial::laid(batch, pixels, rest as u64).0);
    Ok(())
}
