import { useQuery } from "@tanstack/react-query";
import { Button, Input } from "antd";
import { useState } from "react";
import { Link } from "react-router";
import { api, unwrap, type Pack, type PackList } from "../api/client";
import { keys, librariesChanged, queryClient } from "../api/queries";
import { LookDialog } from "../exchange/parts";
import { toast } from "../ui/toasts";
import { useRefusal } from "../ui/useRefusal";
import { rememberRow } from "../items/lastRow";
import { undo } from "../items/undoing";
import { lookWords, packGroups } from "./packWords";
import "./packs.css";

/** The packList of ready-made libraries. */
export default function PacksView() {
  const { data, error } = useQuery({ queryKey: keys.packs, queryFn: () => unwrap(api.GET("/api/packs")) });
  const [looked, setLooked] = useState<Pack>();
  if (error) return <div className="page fault">{error.message}</div>;
  if (!data) return <div className="loading soft">Fetching the packs …</div>;
  return (
    <div className="page packs">
      <h1>Packs</h1>
      <p className="soft">
        Ready-made libraries. Look at one before you add it: you see what it would get in the way of. What you change in
        it stays yours when the pack is brought up to date.
      </p>
      {packGroups(data.packs).map(({ title, packs }) => (
        <section key={title} aria-label={title}>
          <h2>{title}</h2>
          <ul className="pack-packList">
            {packs.map((pack) => (
              <PackCard key={pack.id} pack={pack} onLook={() => setLooked(pack)} />
            ))}
          </ul>
        </section>
      ))}
      <MorePacks packList={data} />
      {looked && (
        <LookDialog
          title={`${looked.state === "offered" ? "Add" : "Bring up to date"}: ${looked.name}`}
          name={["pack", looked.id, looked.state]}
          open={() => unwrap(api.POST("/api/packs/{id}/look", { params: { path: { id: looked.id } } }))}
          hasOptions={false}
          verb={looked.state === "offered" ? "Add" : "Bring up to date"}
          evenNothing
          onClose={() => setLooked(undefined)}
        />
      )}
    </div>
  );
}

function PackCard({ pack, onLook }: { pack: Pack; onLook: () => void }) {
  const { libraryId } = pack;
  const remove = async (id: number) => {
    await unwrap(api.DELETE("/api/items/{id}", { params: { path: { id } } }));
    toast(`The library “${pack.library}” is in the bin; the pack stays on the packList.`, {
      key: "undo",
      action: { label: "Undo", act: () => void undo() },
    });
    await librariesChanged();
  };
  return (
    <li className={`pack ${pack.state}`}>
      <h3>{pack.name}</h3>
      <p>{pack.about}</p>
      <ul className="pack-examples" aria-label="Some of what it has">
        {pack.examples.map(({ typed, goesIn }) => (
          <li key={typed}>
            <span className="tag">{typed}</span> <span className="pack-goes-in">{goesIn}</span>
          </li>
        ))}
      </ul>
      <p className="pack-source soft">
        {pack.snippets} {pack.snippets === 1 ? "snippet" : "snippets"} · {pack.licence} · {pack.source}
      </p>
      <div className="pack-acts">
        {lookWords(pack.state) !== undefined && (
          <Button type={pack.state === "changed" ? "primary" : "default"} onClick={onLook}>
            {lookWords(pack.state)}
            <span className="visually-hidden"> {pack.name}</span>
          </Button>
        )}
        {libraryId !== null && (
          <>
            <span className="pack-state">
              {pack.state === "changed" ? "there is a newer state" : "added"}:{" "}
              <Link to="/libraries" onClick={() => rememberRow(libraryId)}>
                {pack.library}
              </Link>
            </span>
            <Button type="text" onClick={() => void remove(libraryId)}>
              Take away<span className="visually-hidden"> {pack.name}</span>
            </Button>
          </>
        )}
      </div>
    </li>
  );
}

/** A folder of the user's own from which more packs come. */
function MorePacks({ packList }: { packList: PackList }) {
  const [folder, setFolder] = useState(packList.folder ?? "");
  const [fault, attempt] = useRefusal();
  const choose = () =>
    attempt(async () => {
      const body = { folder: folder.trim() === "" ? null : folder };
      queryClient.setQueryData(keys.packs, await unwrap(api.PUT("/api/packs/folder", { body })));
    });
  return (
    <section aria-labelledby="more-packs" className="more-packs">
      <h2 id="more-packs">More packs</h2>
      <label htmlFor="pack-folder">
        A folder of yours with pack files: library files that name their licence and source
      </label>
      <div className="more-packs-folder">
        <Input
          id="pack-folder"
          className="typed"
          placeholder="/home/you/packs"
          value={folder}
          onChange={(event) => setFolder(event.target.value)}
          onPressEnter={() => void choose()}
        />
        <Button onClick={() => void choose()}>Look there</Button>
      </div>
      {fault && (
        <p className="fault" role="alert">
          {fault}
        </p>
      )}
      {packList.problems.map((problem) => (
        <p key={problem} className="caution">
          {problem}
        </p>
      ))}
    </section>
  );
}
