import { useQuery } from "@tanstack/react-query";
import { useParams } from "react-router";
import { campaignQuery } from "@/api/campaigns";
import { ErrorNote } from "@/components/ErrorNote";
import { Loading } from "@/components/Loading";
import { BenchScreen } from "./BenchScreen";

export default function Bench() {
  const { blog = "", slug = "" } = useParams();
  const campaign = useQuery(campaignQuery(blog, slug));
  if (campaign.error) return <ErrorNote error={campaign.error} onRetry={campaign.refetch} />;
  if (!campaign.data) return <Loading what="the bench" rows={10} />;
  return <BenchScreen key={`${blog}/${slug}`} blog={blog} campaign={campaign.data} />;
}
