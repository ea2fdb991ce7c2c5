// Signing in and out.
export { PersonMenu } from "./PersonMenu";
export { SignIn } from "./SignIn";
