import { useQuery } from "@tanstack/react-query";
import { lazy, Suspense, useRef } from "react";
import { Navigate, Outlet, Route, Routes, useLocation } from "react-router";
import { blogsQuery } from "@/api/blogs";
import { type Session, sessionQuery } from "@/api/session";
import { Empty } from "@/components/Empty";
import { ErrorNote } from "@/components/ErrorNote";
import { Loading } from "@/components/Loading";
import { desk } from "@/lib/blog-path";
import { SignIn } from "@/screens/signin/SignIn";
import { SignInAgain } from "@/screens/signin/SignInAgain";
import { Shell } from "./Shell";

const Bench = lazy(() => import("@/screens/bench/Bench"));
const Campaigns = lazy(() => import("@/screens/campaigns/Campaigns"));
const NewCampaign = lazy(() => import("@/screens/campaigns/NewCampaign"));
const Posts = lazy(() => import("@/screens/posts/Posts"));
const PostPage = lazy(() => import("@/screens/posts/PostPage"));
const EditPost = lazy(() => import("@/screens/editor/EditPost"));
const Comments = lazy(() => import("@/screens/comments/Comments"));
const ReplayPage = lazy(() => import("@/screens/replay/ReplayPage"));
const RunPage = lazy(() => import("@/screens/runs/RunPage"));
const Decisions = lazy(() => import("@/screens/runs/Decisions"));
const Runs = lazy(() => import("@/screens/runs/Runs"));
const AddSources = lazy(() => import("@/screens/sources/AddSources"));
const FeedLists = lazy(() => import("@/screens/feed-lists/FeedLists"));
const FeedListPage = lazy(() => import("@/screens/feed-lists/FeedListPage"));
const SourcePage = lazy(() => import("@/screens/sources/SourcePage"));
const NewReader = lazy(() => import("@/screens/pages/NewReader"));
const NewPlatformSource = lazy(() => import("@/screens/platforms/NewPlatformSource"));
const Languages = lazy(() => import("@/screens/languages/Languages"));
const BlogFile = lazy(() => import("@/screens/blog-file/BlogFile"));
const Retention = lazy(() => import("@/screens/retention/Retention"));
const Beside = lazy(() => import("@/screens/editions/Beside"));
const Services = lazy(() => import("@/screens/services/Services"));
const Connections = lazy(() => import("@/screens/platforms/Connections"));
const ReaderPage = lazy(() => import("@/screens/pages/ReaderPage"));
const Readers = lazy(() => import("@/screens/pages/Readers"));
const WordLists = lazy(() => import("@/screens/lists/WordLists"));
const ReadsPage = lazy(() => import("@/screens/reads/ReadsPage"));
const Today = lazy(() => import("@/screens/today/Today"));
const BlogSettings = lazy(() => import("@/screens/settings/BlogSettings"));
const Appearance = lazy(() => import("@/screens/settings/look/Appearance"));
const People = lazy(() => import("@/screens/settings/People"));
const Takedowns = lazy(() => import("@/screens/takedowns/Takedowns"));
const Audit = lazy(() => import("@/screens/settings/Audit"));
const Account = lazy(() => import("@/screens/account/Account"));
const Pictures = lazy(() => import("@/screens/media/Pictures"));
const Recordings = lazy(() => import("@/screens/media/Recordings"));
const Offers = lazy(() => import("@/screens/offers/Offers"));
const OfferPage = lazy(() => import("@/screens/offers/OfferPage"));
const OfferClicks = lazy(() => import("@/screens/offers/OfferClicks"));
const OfferRules = lazy(() => import("@/screens/offers/OfferRules"));
const Names = lazy(() => import("@/screens/library/Names"));
const Review = lazy(() => import("@/screens/review/Review"));
const ApiPage = lazy(() => import("@/screens/api/ApiPage"));
const Join = lazy(() => import("@/screens/join/Join"));
const Reset = lazy(() => import("@/screens/join/Reset"));
const Sources = lazy(() => import("@/screens/sources/Sources"));

function FirstBlog() {
  const blogs = useQuery(blogsQuery);
  const { search } = useLocation();
  if (blogs.error) return <ErrorNote error={blogs.error} onRetry={blogs.refetch} />;
  if (!blogs.data) return <Loading what="your blogs" />;
  const first = blogs.data[0];
  if (!first) return <Empty title="No blog yet" text="Ask an owner of a blog to make you a member of it." />;
  return <Navigate to={{ pathname: desk.today(first.slug), search }} replace />;
}

function Waiting() {
  return (
    <Suspense fallback={<Loading what="the screen" />}>
      <Outlet />
    </Suspense>
  );
}

/** Pages reached by links in mails, with or without a sign-in. */
export function App() {
  return (
    <Routes>
      <Route element={<Waiting />}>
        <Route path="join/:key" element={<Join />} />
        <Route path="reset/:person/:token" element={<Reset />} />
      </Route>
      <Route path="*" element={<SignedIn />} />
    </Routes>
  );
}

function SignedIn() {
  const session = useQuery(sessionQuery);
  // The last signed-in person: when a session expires, the page stays below the sign-in.
  const person = useRef<Session | null>(null);
  if (session.error) return <ErrorNote error={session.error} onRetry={session.refetch} />;
  if (!session.data) return <Loading what="Glyptarch" rows={3} />;
  if (session.data.name) person.current = session.data;
  if (session.data.left) person.current = null;
  if (!person.current) return <SignIn />;
  return (
    <>
      {!session.data.name && <SignInAgain person={person.current} />}
      <Desk session={person.current} />
    </>
  );
}

function Desk({ session }: { session: Session }) {
  return (
    <Routes>
      <Route path="desk/:blog" element={<Shell session={session} />}>
        <Route element={<Waiting />}>
          <Route path="today" element={<Today />} />
          <Route path="campaigns" element={<Campaigns />} />
          <Route path="campaigns/new" element={<NewCampaign />} />
          <Route path="campaigns/:slug" element={<Bench />} />
          <Route path="campaigns/:slug/replay" element={<ReplayPage />} />
          <Route path="runs" element={<Runs />} />
          <Route path="decisions" element={<Decisions />} />
          <Route path="runs/:id" element={<RunPage />} />
          <Route path="posts" element={<Posts />} />
          <Route path="reads" element={<ReadsPage />} />
          <Route path="posts/new" element={<EditPost />} />
          <Route path="posts/:id/edit" element={<EditPost />} />
          <Route path="posts/:id" element={<PostPage />} />
          <Route path="comments" element={<Comments />} />
          <Route path="review" element={<Review />} />
          <Route path="pictures" element={<Pictures />} />
          <Route path="recordings" element={<Recordings />} />
          <Route path="offers" element={<Offers />} />
          <Route path="offers/clicks" element={<OfferClicks />} />
          <Route path="offers/rules" element={<OfferRules />} />
          <Route path="offers/:number" element={<OfferPage />} />
          <Route path="names/:kind" element={<Names />} />
          <Route path="settings" element={<BlogSettings />} />
          <Route path="look" element={<Appearance />} />
          <Route path="people" element={<People />} />
          <Route path="takedowns" element={<Takedowns />} />
          <Route path="audit" element={<Audit />} />
          <Route path="account" element={<Account />} />
          <Route path="api" element={<ApiPage />} />
          <Route path="word-lists" element={<WordLists />} />
          <Route path="readers" element={<Readers />} />
          <Route path="readers/new" element={<NewReader />} />
          <Route path="readers/:key" element={<ReaderPage />} />
          <Route path="connections" element={<Connections />} />
          <Route path="services" element={<Services />} />
          <Route path="languages" element={<Languages />} />
          <Route path="blog-file" element={<BlogFile />} />
          <Route path="retention" element={<Retention />} />
          <Route path="posts/:id/editions/:language" element={<Beside />} />
          <Route path="platform-sources/new" element={<NewPlatformSource />} />
          <Route path="sources" element={<Sources />} />
          <Route path="sources/add" element={<AddSources />} />
          <Route path="feed-lists" element={<FeedLists />} />
          <Route path="feed-lists/:number" element={<FeedListPage />} />
          <Route path="sources/:key" element={<SourcePage />} />
          <Route index element={<Navigate to="today" replace />} />
          <Route
            path="*"
            element={<Empty title="Nothing here" text="There is no screen at this address." />}
          />
        </Route>
      </Route>
      <Route path="*" element={<FirstBlog />} />
    </Routes>
  );
}
