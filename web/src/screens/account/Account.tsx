import { useQuery } from "@tanstack/react-query";
import { accountQuery } from "@/api/account";
import { ErrorNote } from "@/components/ErrorNote";
import { Head } from "@/components/Head";
import { Loading } from "@/components/Loading";
import { Scroll } from "@/ui/Scroll";
import { NoticeChoice } from "./NoticeChoice";
import { Password } from "./Password";
import { Profile } from "./Profile";
import { RemovedBlogs } from "./RemovedBlogs";
import { SecondFactorPart } from "./SecondFactorPart";
import { Sessions } from "./Sessions";
import { Tokens } from "./Tokens";

/** The person's account settings and mail notices. */
export default function AccountScreen() {
  const account = useQuery(accountQuery);
  return (
    <>
      <Head title="Your account" facts={<span className="text-ink3">{account.data?.user_name}</span>} />
      <Scroll label="Settings of your account" className="min-h-0 flex-1 p-5">
        {account.error && <ErrorNote error={account.error} onRetry={account.refetch} />}
        {account.isPending && <Loading what="your account" rows={5} />}
        {account.data && (
          <div className="mx-auto grid max-w-5xl items-start gap-4 lg:grid-cols-2">
            <div className="space-y-4">
              <Profile key={account.dataUpdatedAt} account={account.data} />
              <NoticeChoice />
              <RemovedBlogs />
            </div>
            <div className="space-y-4">
              <Password />
              <SecondFactorPart account={account.data} />
              <Sessions />
              <Tokens />
            </div>
          </div>
        )}
      </Scroll>
    </>
  );
}
