import { useQuery } from "@tanstack/react-query";
import { useEffect, useState } from "react";
import { Link, useLocation, useNavigate, useParams, useSearchParams } from "react-router";
import { api, unwrap } from "../api/client";
import { keys } from "../api/queries";
import { rememberRow } from "../items/lastRow";
import { newSnippet } from "./SnippetSaver";
import { SnippetPage } from "./SnippetPage";
import "./snippet.css";

/** One snippet: what sets it off, and what goes in. */
export default function SnippetView() {
  const location = useLocation();
  // A new snippet that has been made goes on as the page it is; only its address is another one.
  const page = (location.state as { page?: string } | null)?.page ?? location.key;
  return <OneSnippet key={page} page={page} />;
}

function OneSnippet({ page }: { page: string }) {
  const { id: wanted } = useParams();
  const [address] = useSearchParams();
  const navigate = useNavigate();
  const [place] = useState(() => (address.has("in") ? Number(address.get("in")) : undefined));
  const id = wanted === "new" ? undefined : Number(wanted);
  const { data, error } = useQuery({
    queryKey: id === undefined ? ["snippet", "new", place] : keys.snippet(id),
    queryFn: () =>
      id === undefined ? newSnippet(place) : unwrap(api.GET("/api/snippets/{id}", { params: { path: { id } } })),
    placeholderData: (before) => before,
    staleTime: 0,
    gcTime: 0,
  });
  useEffect(() => {
    if (id !== undefined) rememberRow(id);
  }, [id]);
  if (error)
    return (
      <div className="page">
        <h1>This snippet cannot be opened</h1>
        <p className="fault">{error.message}</p>
        <Link to="/libraries" data-first>
          Back to the libraries
        </Link>
      </div>
    );
  if (!data) return <div className="loading soft">Opening the snippet …</div>;
  return (
    <SnippetPage
      loaded={data}
      onMade={(made) => void navigate(`/snippets/${made}`, { replace: true, state: { page } })}
    />
  );
}
