//! Prints where every node of a file is on every frame, and nothing else: node, frame, and the
//! twelve numbers of its node-to-world matrix, column after column. With `--time FILE`, the best time
//! in milliseconds that it takes to load the file.
//!
//! Two constants of tangents are set to ours after loading, so that everything else can be compared
//! to the last digit: the library takes 0.333333 for the third of an unweighted tangent, and divides
//! stored weights by 10000 where the format's own header names 9999.

const THEIR_THIRD: f64 = 0.333333;
const THEIR_DIVISOR: f64 = 10000.0;
const DIVISOR: f64 = 9999.0;

/// The tangent with its weight as we understand it; `span` is the time to the next key.
fn weighed(tangent: &mut ufbx::Tangent, span: f64) {
    if span <= 0.0 || tangent.dx == 0.0 {
        return;
    }
    let theirs = tangent.dx as f64 / span;
    let weight = if (theirs - THEIR_THIRD).abs() < 1e-6 {
        1.0 / 3.0
    } else {
        (theirs * THEIR_DIVISOR).round() / DIVISOR
    };
    let scale = weight / theirs;
    tangent.dx = (tangent.dx as f64 * scale) as f32;
    tangent.dy = (tangent.dy as f64 * scale) as f32;
}

fn weigh(scene: &ufbx::SceneRoot) {
    for curve in &scene.anim_curves {
        let count = curve.keyframes.len();
        // The library hands its keys out as constants; nobody else looks at them here.
        let keys = unsafe {
            std::slice::from_raw_parts_mut(curve.keyframes.as_ptr().cast_mut(), count)
        };
        for i in 0..count {
            if i > 0 {
                let span = keys[i].time - keys[i - 1].time;
                weighed(&mut keys[i].left, span);
            }
            if i + 1 < count {
                let span = keys[i + 1].time - keys[i].time;
                weighed(&mut keys[i].right, span);
            }
        }
    }
}

fn main() {
    let args: Vec<String> = std::env::args().collect();
    if args[1] == "--time" {
        let mut best = f64::MAX;
        for _ in 0..4 {
            let begun = std::time::Instant::now();
            let scene = ufbx::load_file(&args[2], ufbx::LoadOpts::default())
                .expect("a file that can be read");
            assert!(scene.nodes.len() > 0);
            drop(scene);
            best = best.min(begun.elapsed().as_secs_f64() * 1e3);
        }
        println!("{best:.3}");
        return;
    }
    let rate: f64 = args[2].parse().expect("a rate");
    let first: i64 = args[3].parse().expect("a first frame");
    let last: i64 = args[4].parse().expect("a last frame");
    let scene = ufbx::load_file(&args[1], ufbx::LoadOpts::default()).expect("a file that can be read");
    weigh(&scene);
    for frame in first..=last {
        let opts = ufbx::EvaluateOpts::default();
        let at = ufbx::evaluate_scene(&scene, &scene.anim, frame as f64 / rate, opts)
            .expect("a scene that can be evaluated");
        for node in &at.nodes {
            if node.is_root {
                continue;
            }
            let m = node.node_to_world;
            println!(
                "{}\t{}\t{:e}\t{:e}\t{:e}\t{:e}\t{:e}\t{:e}\t{:e}\t{:e}\t{:e}\t{:e}\t{:e}\t{:e}",
                node.element.name, frame, m.m00, m.m10, m.m20, m.m01, m.m11, m.m21, m.m02, m.m12,
                m.m22, m.m03, m.m13, m.m23
            );
        }
    }
}
