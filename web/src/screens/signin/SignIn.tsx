import { SignInForm } from "./SignInForm";

export function SignIn() {
  return (
    <div className="grid h-full md:grid-cols-[minmax(0,1fr)_420px]">
      <div aria-hidden="true" className="relative hidden overflow-hidden bg-[#15211e] md:block">
        <svg
          aria-hidden="true"
          viewBox="0 0 400 400"
          className="absolute inset-0 size-full"
          preserveAspectRatio="xMidYMid slice"
        >
          {[0, 1, 2, 3, 4, 5, 6].map((ring) => (
            <path
              key={ring}
              d={`M200 ${20 + ring * 24} L${380 - ring * 24} 200 L200 ${380 - ring * 24} L${20 + ring * 24} 200Z`}
              fill="none"
              stroke="#7FD6C2"
              strokeOpacity={0.1 + ring * 0.09}
            />
          ))}
          <path d="M200 164 236 200 200 236 164 200Z" fill="#0B6B5F" />
        </svg>
        <p className="absolute bottom-8 left-8 max-w-xs font-display text-2xl text-[#e3ebe7]">
          See every rule at work before it does anything.
        </p>
      </div>
      <main className="flex flex-col justify-center gap-4 bg-sheet px-12">
        <h1 className="mb-2 text-[26px]">Sign in to Glyptarch</h1>
        <SignInForm />
      </main>
    </div>
  );
}
