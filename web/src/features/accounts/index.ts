// Signing in and out, and what is one's own: password and sessions.
export { PersonMenu } from "./PersonMenu";
export { SignIn, SignInForm } from "./SignIn";
