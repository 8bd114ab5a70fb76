import { grades, perTenThousand } from "./safetyWords";
import "./Grade.css";

/** A misfire grade in words, with marks that grow with it, so that it does not hang on colour. */
export function Grade({ grade, rate }: { grade: string; rate?: number }) {
  const level = Object.keys(grades).indexOf(grade);
  const words = grades[grade];
  return (
    <span className={`grade ${grade}`} title={words?.long}>
      <span className="grade-marks" aria-hidden>
        {[0, 1, 2, 3].map((step) => (
          <i key={step} className={step <= level ? "on" : ""} />
        ))}
      </span>
      {words?.name ?? grade}
      {rate !== undefined && rate > 0 && <span className="soft rate">{perTenThousand(rate)}</span>}
    </span>
  );
}
