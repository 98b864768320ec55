//! Prints where every node of a file is on every frame, and nothing else: node, frame, and the
//! twelve numbers of its node-to-world matrix, column after column. With `--time FILE`, the best time
//! in milliseconds that it takes to load the file.

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
